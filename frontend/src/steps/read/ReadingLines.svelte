<script lang="ts">
  // What the reader says of a picture: each mark by its name with why, the bottom, the water.
  import type { ReadingNow } from "../../lib/api/types";
  import { markName } from "../../lib/picture/names";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, sentence } from "../../lib/units";

  let {
    reading,
    named,
    words,
  }: {
    reading: ReadingNow;
    /** Of its marks, those that are shown. */
    named: ReadingNow["marks"];
    /** The names of the ladder's steps. */
    words: readonly string[];
  } = $props();
</script>

<ul class="lines" data-testid="reading">
  {#each named as mark (mark.track)}
    <li>
      <b>{markName(mark, prefs.system)}</b>
      {#each mark.because as why, k (k)}
        <small>{sentence(why.text, why.values, prefs.system, words)}</small>
      {/each}
      {#if mark.fish}
        <small>
          Truly {depth(mark.fish.depth_m[0], prefs.system)} to {depth(mark.fish.depth_m[1], prefs.system)}. It
          is {mark.fish.going === "here" ? "staying" : mark.fish.going}.
        </small>
      {/if}
    </li>
  {/each}
  {#if reading.bottom}
    <li>
      <b>Bottom, {reading.bottom.hardness}{reading.bottom.restless ? ", restless" : ""}</b>
      {#each reading.bottom.because as why, k (k)}
        <small>{sentence(why.text, why.values, prefs.system, words)}</small>
      {/each}
    </li>
  {/if}
  {#each reading.water as said, k (k)}
    <li>{sentence(said.text, said.values, prefs.system, words)}</li>
  {/each}
</ul>

<style>
  small {
    display: block;
    color: var(--soft);
    font-size: 0.88rem;
  }
</style>
