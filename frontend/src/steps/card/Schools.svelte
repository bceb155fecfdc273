<script lang="ts">
  // What the two schools give here, and what a window gives over the full column, in numbers.
  import type { HoleCard } from "../../lib/api/types";
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, length, small, trim } from "../../lib/units";

  let { made, words }: { made: HoleCard; words: readonly string[] } = $props();

  const assumed = $derived(made.unknowns.some((one) => one.name === "fish_length_m"));
</script>

<section class="schools" aria-label="Two schools">
  <h2>Lean or rich, here</h2>
  <table>
    <thead>
      <tr>
        <td></td>
        {#each made.schools as one (one.school)}<th scope="col">{one.school === "lean" ? "Lean" : "Rich"}</th
          >{/each}
      </tr>
    </thead>
    <tbody class="figures">
      <tr
        ><th scope="row">Gain</th>{#each made.schools as one (one.school)}<td>{trim(one.gain, 1)}</td
          >{/each}</tr
      >
      <tr
        ><th scope="row">Water lit</th>{#each made.schools as one (one.school)}<td
            >{trim(one.water_lit_percent, 1)} %</td
          >{/each}</tr
      >
      <tr
        ><th scope="row">Lure paints</th>{#each made.schools as one (one.school)}<td
            >{words[one.lure_colour - 1] ?? "nothing"}</td
          >{/each}</tr
      >
      <tr
        ><th scope="row"
          >Fish of {small(made.fish_length_m, prefs.system)}{assumed ? " (assumed)" : ""} seen over</th
        >{#each made.schools as one (one.school)}<td>{length(one.fish_seen_m, prefs.system)}</td>{/each}</tr
      >
      <tr
        ><th scope="row">Smallest fish shown</th>{#each made.schools as one (one.school)}<td
            >{small(one.smallest_fish_m, prefs.system)}</td
          >{/each}</tr
      >
    </tbody>
  </table>
  <p class="does">
    Lean: quiet water, and small things may be missed. Rich: nothing is missed, with some fuzz to sort out;
    also for searching.
  </p>
  {#each made.views as one (one.view)}
    <p class="does">
      {#if one.view === "full"}
        Full column: a row is {small(one.row_m, prefs.system)}; for fish played up and down.
      {:else if one.kind === "full column"}
        This unit has no window that holds both lure and bottom.
      {:else}
        A {one.kind}, {depth(one.top_m, prefs.system)} to {depth(one.bottom_m, prefs.system)}: a row is {small(
          one.row_m,
          prefs.system,
        )}, marks {trim(made.views[0]!.row_m / one.row_m, 1)} times taller, and nothing above it.
      {/if}
    </p>
  {/each}
</section>

<style>
  table {
    width: 100%;
    border-collapse: collapse;
  }

  th[scope="row"] {
    font: 400 0.95rem var(--words);
    text-align: left;
  }

  th,
  td {
    padding: 5px 6px;
    border-bottom: 1.5px solid var(--line);
    text-align: right;
  }

  .does {
    font-size: 0.92rem;
    color: var(--soft);
  }

  @media print {
    th,
    td {
      padding: 1pt 2pt;
    }

    th[scope="row"] {
      font-size: 7.5pt;
    }

    .does {
      font-size: 7pt;
      line-height: 1.15;
    }
  }
</style>
