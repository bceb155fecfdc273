<script lang="ts">
  // The fan's card: how to hang and set a head from what one knows at a hole, on one page and as a message; the same
  // picture on the other head; and, here, a button that sets the fan so.
  import { api, ok, words } from "../../lib/api/client";
  import { limits } from "../../lib/api/limits";
  import type { FanCardMade, FanHead, FanKnown, FanTranslated } from "../../lib/api/types";
  import Measured from "../../lib/controls/Measured.svelte";
  import { options } from "../../lib/controls/options";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { latest } from "../../lib/latest";
  import { prefs } from "../../lib/prefs.svelte";
  import { deepMeasure, depth, sentence, shortMeasure } from "../../lib/units";
  import { messageOf, NAMES, valueOf } from "./fan";

  let {
    head,
    depth_m,
    use,
  }: {
    head: FanHead;
    /** How deep it is where one looks [m]: what the card begins with. */
    depth_m: number;
    use: (card: FanCardMade) => void;
  } = $props();

  const fields = limits.FanKnownFields;
  const known: FanKnown = $state({
    depth_m: 8,
    job: "search",
    clarity: "clear",
    light: "day",
    liveliness: "some",
    liking: "clean",
    bottom_kind: "mud",
    ice_m: 0.4,
    fish_m: 0.3,
    lure: null,
  });
  let begun = false;
  $effect.pre(() => {
    if (begun) return;
    begun = true;
    known.depth_m = Math.round(Math.min(Math.max(depth_m, fields.depth_m.min), fields.depth_m.max) * 10) / 10;
  });

  let card: FanCardMade | null = $state.raw(null);
  let other: FanTranslated | null = $state.raw(null);
  let trouble = $state("");
  let said = $state("");
  /** Whether what is shown is of something that was told before. */
  let old = $state(false);
  const otherKey = $derived(head.key === "near reach" ? ("far reach" as const) : ("near reach" as const));

  const ask = latest((key: FanHead["key"], body: FanKnown) =>
    ok(api.POST("/api/search/fan-card", { body: { head: key, known: body } })),
  );
  $effect(() => {
    const [key, body] = [head.key, { ...known }];
    other = null;
    said = "";
    old = true;
    ask(key, body)
      .then((made) => {
        if (!made) return;
        old = false;
        card = made;
        trouble = "";
      })
      .catch((problem: unknown) => {
        old = false;
        card = null;
        trouble = words(problem);
      });
  });

  async function translate() {
    if (!card) return;
    try {
      const body = { head: head.key, known, now: card.settings, other: otherKey };
      other = await ok(api.POST("/api/search/fan-card/translate", { body }));
    } catch (problem) {
      trouble = words(problem);
    }
  }

  async function copy() {
    if (!card) return;
    const text = messageOf(card, head.controls, prefs.system);
    try {
      await navigator.clipboard.writeText(text);
      said = `Copied: ${text}`;
    } catch {
      said = text; // no clipboard here: the text can still be marked and copied
    }
  }

  const choices = [
    { field: "job", name: "What for" },
    { field: "clarity", name: "Water" },
    { field: "light", name: "Light" },
    { field: "liveliness", name: "Life in the water" },
    { field: "bottom_kind", name: "Bottom" },
    { field: "liking", name: "Picture" },
  ] as const;
</script>

<section class="known" aria-label="What you know">
  <Measured
    id="fan-depth"
    name="Depth of the water"
    measure={deepMeasure(1)}
    value={known.depth_m}
    low={fields.depth_m.min}
    high={fields.depth_m.max}
    change={(value) => value !== null && (known.depth_m = value)}
  />
  <Measured
    id="fan-ice"
    name="Ice"
    measure={shortMeasure}
    value={known.ice_m}
    low={fields.ice_m.min}
    high={fields.ice_m.max}
    change={(value) => value !== null && (known.ice_m = value)}
  />
  {#each choices as { field, name } (field)}
    <label class="field"
      >{name}
      <select bind:value={known[field]}>
        {#each options(fields[field].choices) as one (one.value)}<option value={one.value}>{one.label}</option
          >{/each}
      </select></label
    >
  {/each}
</section>

<Trouble words={trouble} />
{#if card}
  <section class="sheet" data-testid="fan-card" aria-busy={old} aria-label="The card">
    <h2>
      {head.name}: gain <span class="figures">{valueOf("gain", card.settings, prefs.system)}</span>
    </h2>
    <p>
      The head hangs {depth(card.hang.depth_m, prefs.system)} down and looks {card.hang.mounting === "down"
        ? "down"
        : "ahead"}. Hang it plumb, its mark in line with the handle.
    </p>
    <table>
      <tbody>
        {#each head.controls as control (control)}
          <tr>
            <th scope="row">{NAMES[control]}</th>
            <td class="figures">{valueOf(control, card.settings, prefs.system)}</td>
            <td class="does">
              {#if card.lines[control]}{sentence(
                  card.lines[control].text,
                  card.lines[control].values,
                  prefs.system,
                )}{/if}
            </td>
          </tr>
        {/each}
      </tbody>
    </table>
    {#each card.later as one, k (k)}<p>{sentence(one.text, one.values, prefs.system)}</p>{/each}
    <p class="soft">
      Worked out for flat water with nothing in it. Measure the ice before you walk, and turn back where it is
      thinner than you trust; local rules come first.
    </p>
  </section>
  <div class="button-row">
    <button class="primary" disabled={old} onclick={() => use(card!)}>Set the fan so</button>
    <button onclick={() => void copy()}>Text message</button>
    <button onclick={() => window.print()}>Print</button>
    <button onclick={() => void translate()}>On {otherKey}</button>
  </div>
  <p class="said" role="status">{said}</p>
  {#if other}
    <section data-testid="fan-other" aria-label="On the other head">
      <h3>The same picture on {otherKey}</h3>
      <p class="figures">
        {messageOf(
          { head: otherKey, hang: card.hang, settings: other.settings },
          ["gain", "ahead", "behind", "deep", "repeats", "clutter", "damping"],
          prefs.system,
        )}
      </p>
      {#each other.unmatched as one, k (k)}<p class="soft">
          {sentence(one.text, one.values, prefs.system)}
        </p>{/each}
    </section>
  {/if}
{/if}

<style>
  .known {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
    gap: 8px;
    align-items: end;
  }

  .sheet {
    display: grid;
    gap: 6px;
  }

  table {
    border-collapse: collapse;
    width: 100%;
  }

  th,
  td {
    text-align: left;
    vertical-align: top;
    padding: 3px 8px 3px 0;
    border-top: 1px solid var(--ice-edge);
    line-height: 1.25;
  }

  th {
    font-weight: 600;
  }

  td.figures {
    white-space: nowrap;
    font-weight: 700;
  }

  .does {
    font-size: 0.86rem;
    color: var(--soft);
  }

  .said {
    user-select: all;
  }

  .said:empty {
    display: none;
  }

  @media print {
    :global(main.search > .left),
    :global(main.search [role="tablist"]),
    .known,
    .button-row,
    .said {
      display: none;
    }
  }
</style>
