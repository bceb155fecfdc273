<script lang="ts">
  // What was used on good stays, beside what the card says: where they differ, with what.
  import { api, ok } from "../../lib/api/client";
  import type { Worked } from "../../lib/api/types";
  import { latest } from "../../lib/latest";
  import { prefs } from "../../lib/prefs.svelte";
  import { sentence } from "../../lib/units";

  let { holeId, unitId, gain }: { holeId: number; unitId: number; gain: number } = $props();
  let worked = $state<Worked>([]);

  const ask = latest((hole_id: number) =>
    ok(api.GET("/api/holes/{hole_id}/worked", { params: { path: { hole_id } } })),
  );
  // Another unit or gain on the card is held against the log anew.
  $effect(() => {
    void [unitId, gain];
    ask(holeId)
      .then((answer) => (worked = answer?.worked ?? worked))
      .catch(() => undefined); // the card itself says when the program does not answer
  });
</script>

{#if worked.length > 0}
  <section aria-labelledby="worked">
    <h2 id="worked">What worked, by your log</h2>
    <ul class="lines" data-testid="worked">
      {#each worked as one (one.where)}
        <li>{sentence(one.says.text, one.says.values, prefs.system)}</li>
      {/each}
    </ul>
  </section>
{/if}
