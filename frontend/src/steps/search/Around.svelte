<script lang="ts">
  // Who lives here: all that the picture round this hole shows, in one list; a touch on a line is a touch on the thing.
  import type { Thing } from "../../lib/api/types";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { words } from "../../lib/api/client";
  import { prefs } from "../../lib/prefs.svelte";
  import { trim } from "../../lib/units";
  import type { LookStream } from "./look.svelte";
  import { search } from "./search.svelte";
  import { between, clockOf, KINDS } from "./words";

  let { look, twelve }: { look: LookStream; twelve: number } = $props();

  const SURE = 0.5; // less is not worth a line
  let things: Thing[] | null = $state.raw(null);
  let trouble = $state("");

  async function list() {
    trouble = "";
    try {
      const found = await look.things();
      things = found.filter((one) => one.fix && (one.kinds[0]?.chance ?? 0) >= SURE);
    } catch (problem) {
      trouble = words(problem);
    }
  }

  const order = ["standing", "school", "hunters", "single fish"] as const;
  const place = (one: Thing) => order.indexOf(one.kinds[0]!.kind);
  const sorted = $derived.by(() => [...(things ?? [])].sort((a, b) => place(a) - place(b)));
</script>

<section class="around" aria-label="Who lives here">
  <h2>Who lives here</h2>
  <button onclick={list}>{things ? "List it anew" : "List all that the picture shows"}</button>
  {#if things?.length === 0}
    <p class="soft">Nothing yet that can be told with half a chance. Whole turns are needed, two at least.</p>
  {/if}
  {#if sorted.length > 0}
    <ul>
      {#each sorted as thing, k (k)}
        {@const [first] = thing.kinds}
        <li>
          <button
            onclick={() => {
              search.touched = { ...thing, bearing: thing.fix!.bearing_deg, range: thing.fix!.range_m };
            }}
          >
            {KINDS[first!.kind]}, {clockOf(thing.fix!.bearing_deg - twelve)}{thing.ice?.low_m != null &&
            thing.ice.high_m != null
              ? `, ${between(thing.ice.low_m, thing.ice.high_m, prefs.system)}`
              : ""}
            <span class="figures">{trim(100 * Math.min(first!.chance, 0.99), 0)} %</span>
          </button>
        </li>
      {/each}
    </ul>
  {/if}
  <Trouble words={trouble} />
</section>

<style>
  .around {
    display: grid;
    gap: 6px;
    justify-items: start;
  }

  ul {
    list-style: none;
    margin: 0;
    padding: 0;
    display: grid;
    gap: 4px;
    width: 100%;
    max-height: 21rem;
    overflow: auto;
  }

  li button {
    display: flex;
    justify-content: space-between;
    gap: 10px;
    width: 100%;
    text-align: left;
  }
</style>
