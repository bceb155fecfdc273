<script lang="ts">
  // What a person chooses for this browser: what is heard and felt, and which steps stand in the navigation.
  import SlidersHorizontal from "@lucide/svelte/icons/sliders-horizontal";
  import { type Cue, give } from "./lib/cues";
  import Popover from "./lib/overlay/Popover.svelte";
  import { PANELS } from "./lib/panels";
  import { prefs } from "./lib/prefs.svelte";
  import { STEPS } from "./lib/world.svelte";

  const CUES: readonly { cue: Cue; name: string }[] = [
    { cue: "tap", name: "A knock at the tip" },
    { cue: "pull", name: "Something pulls" },
    { cue: "bottom", name: "On the bottom" },
    { cue: "held", name: "The hook held" },
  ];
  const canShake = "vibrate" in navigator;
</script>

<button
  class="settings"
  popovertarget="settings"
  aria-haspopup="dialog"
  aria-expanded="false"
  aria-label="Settings"><SlidersHorizontal size={20} aria-hidden="true" /></button
>
<Popover id="settings" label="Settings">
  <h2>What the hand feels</h2>
  <div class="pair">
    <button aria-pressed={prefs.sound} onclick={() => prefs.setSound(!prefs.sound)}
      >Sound {prefs.sound ? "on" : "off"}</button
    >
    <button
      aria-pressed={prefs.vibration && canShake}
      disabled={!canShake}
      onclick={() => prefs.setVibration(!prefs.vibration)}
      >Vibration {!canShake ? "not here" : prefs.vibration ? "on" : "off"}</button
    >
  </div>
  <p class="soft">On the Bench and in a run, because a line is felt before it is seen. Try them:</p>
  <div class="pair">
    {#each CUES as { cue, name } (cue)}<button onclick={() => give(cue)}>{name}</button>{/each}
  </div>
  <h2>Steps in sight</h2>
  <p class="soft">What you hide stands under <b>More</b>.</p>
  <div class="steps">
    {#each STEPS as { key, name } (key)}
      {@const shown = !prefs.hiddenSteps.includes(key)}
      <button aria-pressed={shown} onclick={() => prefs.showStep(key, !shown)}>{name}</button>
    {/each}
  </div>
  <details>
    <summary>Panels in sight</summary>
    <p class="soft">What you hide is gone until you show it here again.</p>
    {#each Object.entries(PANELS) as [step, panels] (step)}
      <h3>{STEPS.find((one) => one.key === step)?.name}</h3>
      <div class="steps">
        {#each panels as { key, name } (key)}
          {@const shown = !prefs.hiddenPanels.includes(`${step}/${key}`)}
          <button aria-pressed={shown} onclick={() => prefs.showPanel(`${step}/${key}`, !shown)}
            >{name}</button
          >
        {/each}
      </div>
    {/each}
  </details>
</Popover>

<style>
  .settings {
    display: grid;
    place-items: center;
    padding: 0 8px;
  }

  h2 {
    margin: 0 0 6px;
  }

  h3 {
    margin: 8px 0 4px;
    font-size: 0.95rem;
  }

  .pair + h2 {
    margin-top: 14px;
  }

  .soft {
    margin: 6px 0;
  }

  .pair,
  .steps {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 6px;
  }

  .pair button,
  .steps button {
    padding: 0 6px;
    line-height: 1.15;
  }

  .steps {
    grid-template-columns: repeat(3, 1fr);
  }
</style>
