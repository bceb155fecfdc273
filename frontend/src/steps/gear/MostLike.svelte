<script lang="ts">
  // Nothing is chosen yet: which of the units here is most like one's own.
  import type { Unit } from "../../lib/api/types";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, trim } from "../../lib/units";

  let { units, copy }: { units: readonly Unit[]; copy: (unit: Unit) => void } = $props();

  const DRAWS: Record<string, string> = {
    ring: "a lit ring",
    strip: "an upright strip",
    trace: "a picture that runs on",
  };
  const told = (one: Unit) => [
    one.pictures.map((kind) => DRAWS[kind] ?? kind).join(" and "),
    `gain ${trim(one.gain.minimum, 1)} to ${trim(one.gain.maximum, 1)}`,
    `${one.beams.map((beam) => `${trim(beam.width_deg, 0)}°`).join(" and ")} ${one.beams.length > 1 ? "beams" : "beam"}`,
    `down to ${depth(one.ranges_m.at(-1)!, prefs.system)}`,
  ];
  const colours = (one: Unit) => one.ladders[0]!.steps.map((step) => step[prefs.theme]);
</script>

<h2>Which is most like yours?</h2>
<p class="soft">
  It is copied, and six questions make it your own. A lure is chosen, copied or added at the left.
</p>
<ul>
  {#each units as one (one.id)}
    {@const shades = colours(one)}
    <li>
      <svg viewBox="0 0 64 64" aria-hidden="true">
        {#if one.pictures[0] === "ring"}
          <circle class="water" cx="32" cy="32" r="23" />
          <path stroke={shades.at(-1)} d="M32 9a23 23 0 0 1 9 1.8" />
          <path stroke={shades[0]} d="M55 32a23 23 0 0 1-1 6" />
          <path stroke={shades.at(-1)} d="M25 54a23 23 0 0 1-9-5.6" />
        {:else if one.pictures[0] === "strip"}
          <path class="water" d="M32 4v56" />
          <path stroke={shades.at(-1)} d="M32 4v6" />
          <path stroke={shades[0]} d="M32 34v4" />
          <path stroke={shades.at(-1)} d="M32 50v8" />
        {:else}
          <rect class="wide" x="4" y="4" width="56" height="56" />
          <path class="thin" stroke={shades.at(-1)} d="M4 7h56" />
          <path class="thin" stroke={shades[0]} d="M4 40q18-14 32 0t24-6" />
          <path class="thin" stroke={shades.at(-1)} d="M4 52h56" />
        {/if}
      </svg>
      <div>
        <p class="name">{one.name}</p>
        <p class="soft">{told(one).join(", ")}.</p>
      </div>
      <button onclick={() => copy(one)}>Mine is like this</button>
    </li>
  {/each}
</ul>

<style>
  ul {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(min(420px, 100%), 1fr));
    gap: 10px;
    margin: 0;
    padding: 0;
    list-style: none;
  }

  li {
    display: grid;
    grid-template-columns: 64px minmax(0, 1fr) auto;
    gap: 12px;
    align-items: center;
    padding: 8px 12px;
    border: 1.5px solid var(--line);
    border-radius: 8px;
    background: var(--panel);
  }

  .name {
    font-weight: 700;
  }

  svg {
    width: 64px;
    height: 64px;
  }

  path,
  circle {
    fill: none;
    stroke-width: 10;
  }

  .water {
    stroke: var(--water);
  }

  .wide {
    fill: var(--water);
  }

  .thin {
    stroke-width: 5;
  }

  @media (max-width: 760px) {
    li {
      grid-template-columns: 64px minmax(0, 1fr);
    }

    button {
      grid-column: 1 / -1;
    }
  }
</style>
