<script lang="ts">
  // The marks of the picture as a list in its margin: by name where the reader names them, else by depth and colour
  // and in sight only while a key walks them. It is updated without a word; the arrows walk it, Enter asks what a mark
  // is, Escape goes back to the water.
  import { onMount, tick } from "svelte";
  import type { Ladder } from "../api/types";
  import type { BenchStream } from "../live/stream.svelte";
  import { toPage } from "../overlay/focus";
  import { prefs } from "../prefs.svelte";
  import { depth } from "../units";
  import { numbered, type SeenMark } from "./marks";
  import { markName } from "./names";
  import type { Painter } from "./painter";

  let {
    painter,
    stream,
    ladder,
    named,
    room,
    height,
    size,
    explain,
  }: {
    painter: Painter;
    stream: BenchStream;
    ladder: Ladder;
    /** Whether names stand in the margin. */
    named: boolean;
    /** From where to the right the painted picture keeps room for names [px]; null while it keeps none yet. */
    room: number | null;
    height: number;
    /** Changes when the picture's size does. */
    size: string;
    /** Say what the mark at a range [m] is, at a place on the canvas; null where that is not told. */
    explain: ((range: number, x: number, y: number) => void) | null;
  } = $props();

  interface Line {
    id: number;
    text: string;
    range: number;
    lure: boolean;
    x: number;
    /** Where the mark is, and where its words are. */
    at: number;
    y: number;
  }

  let list: HTMLElement;
  let seen: (SeenMark & { id: number })[] = $state([]);
  let place = $state(0);
  let counter = 0;

  function look() {
    seen = numbered(painter.marks(), seen, () => counter++);
  }

  // A picture of another size has its marks elsewhere, once it is painted anew.
  $effect(() => {
    void size;
    const soon = window.setTimeout(look, 60);
    return () => window.clearTimeout(soon);
  });

  onMount(() => {
    look();
    const timer = window.setInterval(look, 1000);
    return () => window.clearInterval(timer);
  });

  const LINE = 24; // pixels: the least that a finger is asked to hit
  const lines = $derived.by((): Line[] => {
    if (named && room === null) return []; // or they would stand on the water, or outside the picture
    const found = named
      ? (stream.reading?.marks ?? []).filter((mark) => !mark.hidden)
      : seen.map((mark) => ({ ...mark, range_m: mark.top + Math.min((mark.bottom - mark.top) / 2, 0.05) }));
    let free = 12;
    const made = found.flatMap((mark) => {
      const at = painter.placeOf(mark.range_m);
      if (!at) return [];
      const read = "track" in mark;
      const text = read
        ? markName(mark, prefs.system)
        : `Mark at ${depth(painter.depthOf(mark.top), prefs.system)}, ` +
          (ladder.steps[mark.level - 1]?.name ?? "");
      const rows = read ? Math.max(Math.ceil((text.length * 7.4) / Math.max(painter.margin - 22, 40)), 1) : 1;
      const y = Math.max(at[1], free + (rows * LINE) / 2);
      free = y + (rows * LINE) / 2 + 3;
      return [
        {
          id: read ? mark.track : mark.id,
          text,
          range: mark.range_m,
          lure: read && mark.kind === "lure",
          x: at[0],
          at: at[1],
          y,
        },
      ];
    });
    // The last must not be pushed out at the foot.
    let most = height - 12;
    for (const line of made.toReversed()) {
      line.y = Math.min(line.y, most);
      most = line.y - LINE;
    }
    return made;
  });
  const current = $derived(Math.min(place, Math.max(lines.length - 1, 0)));

  /** Put the focus on the first mark. */
  export function walk() {
    place = 0;
    look();
    void tick().then(() => buttons()[0]?.focus());
  }

  const buttons = () => [...list.querySelectorAll<HTMLElement>("button")];

  function key(event: KeyboardEvent) {
    const last = lines.length - 1;
    const to = {
      ArrowDown: Math.min(current + 1, last),
      ArrowUp: Math.max(current - 1, 0),
      Home: 0,
      End: last,
    }[event.key];
    if (event.key === "Escape" && document.querySelector(":popover-open, dialog[open]")) return; // it closes first
    if (event.key === "Escape") toPage();
    else if (to === undefined) return;
    else {
      place = to;
      buttons()[to]?.focus();
    }
    event.preventDefault();
    event.stopPropagation(); // or the lure would move
  }
</script>

{#if named}
  <svg class="leaders" aria-hidden="true">
    {#each lines as { id, x, at, y } (id)}<path d="M{x} {at}h4L{x + 12} {y}" />{/each}
  </svg>
{/if}
<ul bind:this={list} aria-label="Marks on the picture" data-testid="marks" class:named>
  {#each lines as line, i (line.id)}
    <li style:top="{line.y}px" style:left={named ? `${line.x + 12}px` : null}>
      <button
        class:lure={line.lure}
        class:unseen={!named}
        tabindex={i === current ? 0 : -1}
        onfocus={() => (place = i)}
        onkeydown={key}
        onclick={() => explain?.(line.range, line.x, line.at)}>{line.text}</button
      >
    </li>
  {:else}
    <li class="unseen">No marks on the picture.</li>
  {/each}
</ul>

<style>
  .leaders {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    pointer-events: none;
  }

  path {
    fill: none;
    stroke: var(--soft);
    stroke-width: 1.5;
  }

  ul {
    margin: 0;
    padding: 0;
    list-style: none;
  }

  li:not(.unseen) {
    position: absolute;
    right: 4px;
    transform: translateY(calc(-100% - 14px));
    max-width: 100%;
  }

  .named li:not(.unseen) {
    right: 2px;
    transform: translateY(-50%);
  }

  button {
    min-height: 24px;
    min-width: 0;
    padding: 1px 5px;
    border: 0;
    border-left: 4px solid var(--pine);
    border-radius: 3px;
    background: var(--panel);
    font-size: 0.82rem;
    font-weight: 600;
    line-height: 1.15;
    text-align: left;
  }

  /* Without names the picture is left alone until a key walks its marks. */
  button.unseen:not(:focus-visible) {
    min-height: 0;
    padding: 0;
    border: 0;
  }

  button.unseen:focus-visible {
    position: static;
    width: auto;
    height: auto;
    overflow: visible;
    clip-path: none;
  }

  button.lure {
    border-left-color: var(--action);
  }
</style>
