<script lang="ts">
  // Whether the picture stands as the pole does: a known thing, where it is and where it is seen.
  import { api, ok, words } from "../../lib/api/client";
  import type { HeadingError } from "../../lib/api/types";
  import Measured from "../../lib/controls/Measured.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { plainMeasure, sentence } from "../../lib/units";
  import { search } from "./search.svelte";

  let known: { true_deg: number; seen_deg: number; sd_deg: number }[] = $state.raw([]);
  let truly: number | null = $state(null);
  let seen: number | null = $state(null);
  let found: HeadingError | null = $state.raw(null);
  let trouble = $state("");
  const degrees = plainMeasure("° from north", 0);

  async function check() {
    if (truly === null || seen === null) return;
    trouble = "";
    const all = [...known, { true_deg: truly, seen_deg: seen, sd_deg: 3 }];
    try {
      found = await ok(api.POST("/api/search/heading", { body: { known: all } }));
      known = all;
      truly = seen = null;
    } catch (problem) {
      trouble = words(problem);
    }
  }

  function correct() {
    if (!found) return;
    search.change({ twelve_deg: (search.own.twelve_deg - found.error_deg + 720) % 360 });
    known = [];
    found = null;
  }
</script>

<section class="check" aria-label="Heading check">
  <h2>Is the picture straight?</h2>
  <p class="soft">
    Handle, pole mark, head and north mark stand in one line. Let a weight down a second hole, or take timber
    that you know: say where it is, and where your picture has it.
  </p>
  <Measured
    id="known-true"
    name="It is at"
    measure={degrees}
    value={truly}
    low={0}
    high={360}
    empty
    change={(value) => (truly = value)}
  />
  <Measured
    id="known-seen"
    name="The picture has it at"
    measure={degrees}
    value={seen}
    low={0}
    high={360}
    empty
    hint="As seen, twelve taken for where you said it points"
    change={(value) => (seen = value)}
  />
  <button onclick={check} disabled={truly === null || seen === null}>
    {known.length === 0 ? "Check" : "Check with this one too"}
  </button>
  <Trouble words={trouble} />
  {#if found}
    <p role="status" data-testid="heading">{sentence(found.why.text, found.why.values, prefs.system)}</p>
    {#if found.say === "correct"}<button class="primary" onclick={correct}>Correct it here</button>{/if}
  {/if}
</section>

<style>
  .check {
    display: grid;
    gap: 8px;
  }
</style>
