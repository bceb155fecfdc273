<script lang="ts">
  // What would mend a picture, told from the picture alone, each with what shows it.
  import { api, ok, words as wordsOf } from "../../lib/api/client";
  import type { Hole, Mending } from "../../lib/api/types";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, sentence, trim } from "../../lib/units";

  let {
    id,
    hole,
    words,
  }: {
    /** The recording. */
    id: number;
    hole: Hole;
    /** The ladder's steps, weakest first. */
    words: readonly string[];
  } = $props();

  let told = $state.raw<Mending | null>(null);
  let trouble = $state("");
  let put = $state("");

  $effect(() => void ask(id));

  async function ask(recording_id: number) {
    try {
      told = await ok(
        api.GET("/api/recordings/{recording_id}/mending", { params: { path: { recording_id } } }),
      );
    } catch (problem) {
      trouble = wordsOf(problem);
    }
  }

  /** What the picture shows of the bottom becomes what the hole's card knows. */
  async function onCard(bottom_m: number) {
    const params = { path: { hole_id: hole.id } };
    try {
      const { wanted } = await ok(api.GET("/api/holes/{hole_id}/card", { params }));
      await ok(
        api.PUT("/api/holes/{hole_id}/card", {
          params,
          body: { ...wanted, depth_m: bottom_m, depth_is: "displayed" },
        }),
      );
      put = `The card knows ${depth(bottom_m, prefs.system)} on the unit now.`;
      trouble = "";
    } catch (problem) {
      trouble = wordsOf(problem);
    }
  }
</script>

<section aria-label="What would mend this picture" data-testid="mending">
  <h2>What would mend this picture</h2>
  {#if told}
    {#if told.mends.length === 0}
      <p>Nothing here asks to be changed: fish on.</p>
    {:else}
      <ol class="lines">
        {#each told.mends as mend (mend.what.text)}
          <li>
            <b>{sentence(mend.what.text, mend.what.values, prefs.system, words)}</b>
            {#if mend.change?.setting === "gain"}<span class="figures"
                >Gain to {trim(Number(mend.change.value), 1)}</span
              >{/if}
            <small>{sentence(mend.because.text, mend.because.values, prefs.system, words)}</small>
          </li>
        {/each}
      </ol>
    {/if}
    {#if told.bottom_m !== null}
      <p class="bottom" role="status">
        {#if put}
          {put} <a href="#/hole/{hole.id}/card">Look at the card</a>
        {:else}
          Its bottom stands at {depth(told.bottom_m, prefs.system)} on the unit.
          <button onclick={() => void onCard(told!.bottom_m!)}>Put it on the card</button>
        {/if}
      </p>
    {/if}
  {:else if !trouble}
    <p>Looking at the picture.</p>
  {/if}
  <Trouble words={trouble} />
</section>

<style>
  section {
    display: grid;
    gap: 6px;
  }

  small {
    display: block;
    color: var(--soft);
    font-size: 0.88rem;
  }

  .figures {
    display: block;
    font-weight: 700;
  }

  a {
    color: var(--action);
    font-weight: 600;
  }

  .bottom {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
  }
</style>
