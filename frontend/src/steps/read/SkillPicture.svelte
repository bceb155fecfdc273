<script lang="ts">
  // Skills by kind: share right with what it may really be, how many answers, how quick, what is due.
  import type { Skill } from "../../lib/api/types";
  import { trim } from "../../lib/units";
  import ShareBar from "../../lib/controls/ShareBar.svelte";

  let { skills, one }: { skills: readonly Skill[]; one: (skill: Skill) => void } = $props();

  function due(skill: Skill): string {
    if (skill.due_at === null) return "new";
    if (skill.is_due) return "due";
    const hours = (Date.parse(skill.due_at) - Date.now()) / 3.6e6;
    if (hours < 1) return `in ${Math.max(Math.round(hours * 60), 1)} min`;
    return hours < 36 ? `in ${Math.round(hours)} h` : `in ${Math.round(hours / 24)} days`;
  }

  const share = (value: number) => `${Math.round(100 * value)} %`;
</script>

<table>
  <caption>Skills. The bar is the share right; the line through it is what it may really be, 95 %.</caption>
  <thead>
    <tr>
      <th scope="col">Skill</th>
      <th scope="col">Right</th>
      <th scope="col" class="number">Answers</th>
      <th scope="col" class="number wide">Time</th>
      <th scope="col" class="number wide">Level</th>
      <th scope="col" class="number">Due</th>
    </tr>
  </thead>
  <tbody>
    {#each skills as skill (skill.kind)}
      <tr>
        <th scope="row"><button onclick={() => one(skill)}>{skill.title}</button></th>
        <td class="bar">
          {#if skill.answers > 0}
            <ShareBar
              share={skill.share}
              low={skill.low}
              high={skill.high}
              label="{share(skill.share)} right, between {share(skill.low)} and {share(skill.high)}"
            />
          {:else}
            <span class="none">not tried</span>
          {/if}
        </td>
        <td class="number figures">{skill.answers}</td>
        <td class="number wide figures">{skill.answers > 0 ? `${trim(skill.median_s, 1)} s` : ""}</td>
        <td class="number wide figures">{skill.level}</td>
        <td class="number" class:due={skill.is_due}>{due(skill)}</td>
      </tr>
    {/each}
  </tbody>
</table>

<style>
  table {
    width: 100%;
    border-collapse: collapse;
  }

  caption {
    text-align: left;
    color: var(--soft);
    padding-bottom: 6px;
  }

  th,
  td {
    padding: 2px 8px;
    border-bottom: 1.5px solid var(--line);
    text-align: left;
    font-weight: 400;
  }

  thead th {
    font-weight: 700;
    font-size: 0.9rem;
  }

  .number {
    text-align: right;
    white-space: nowrap;
  }

  th button {
    width: 100%;
    text-align: left;
    border-color: transparent;
    background: none;
    padding: 0 6px;
    font-weight: 600;
    text-decoration: underline;
    text-underline-offset: 3px;
    line-height: 1.15;
  }

  .bar {
    width: 30%;
  }

  .bar :global(svg) {
    height: 16px;
  }

  .none {
    color: var(--soft);
  }

  .due {
    font-weight: 700;
    color: var(--action);
  }

  @media (max-width: 760px) {
    .wide {
      display: none;
    }

    th,
    td {
      padding: 2px 3px;
    }

    .bar {
      width: 24%;
    }
  }
</style>
