<script lang="ts">
  // Every control of the fan that the head has, each with what it costs just now; and how the head hangs.
  import type { FanAdvice, FanHang, FanHead, FanSettings, HungLure } from "../../lib/api/types";
  import { limits } from "../../lib/api/limits";
  import Choice from "../../lib/controls/Choice.svelte";
  import ListKnob from "../../lib/controls/ListKnob.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { type Control, NAMES } from "./fan";
  import { depth, fromDepth, sentence, toDepth, trim, way } from "../../lib/units";

  let {
    head,
    hang,
    settings,
    lures,
    advice,
    set,
  }: {
    head: FanHead;
    hang: FanHang;
    settings: FanSettings;
    lures: HungLure[];
    advice: FanAdvice | null;
    set: (change: { hang?: Partial<FanHang>; settings?: Partial<FanSettings>; lures?: HungLure[] }) => void;
  } = $props();

  interface Knob {
    control: Control;
    name: string;
    options: string[];
    values: (number | boolean | string)[];
    field: keyof FanSettings;
  }

  const has = (control: Control) => head.controls.includes(control);
  const feet = $derived(prefs.system === "feet");
  /** Ways in whole feet or metres. */
  const ways = (inFeet: number[], inMetres: number[]) =>
    (feet ? inFeet : inMetres).map((one) => Math.round(fromDepth(one, prefs.system) * 1000) / 1000);
  const named = (values: number[]) => values.map((one) => (one === 0 ? "off" : way(one, prefs.system)));
  const count = (most: number, words?: string[]) =>
    Array.from({ length: most + 1 }, (_, k) => words?.[k] ?? (k === 0 ? "off" : String(k)));
  const numbers = (most: number) => Array.from({ length: most + 1 }, (_, k) => k);

  const knobs = $derived.by((): Knob[] => {
    const far = ways([20, 30, 40, 60, 80, 100, 130], [6, 8, 10, 12, 18, 25, 30, 40]).filter(
      (one) => Math.hypot(one, settings.deep_m) <= head.longest_m,
    );
    const back = ways([0, 5, 10, 20, 30, 40], [0, 2, 3, 5, 8, 12]);
    const down = ways([10, 15, 20, 25, 30, 40, 50, 60], [3, 4, 6, 8, 9, 12, 15, 18]).filter(
      (one) => Math.hypot(settings.ahead_m, one) <= head.longest_m,
    );
    const damp = ways([0, 2, 4, 8, 12, 20], [0, 0.5, 1, 2, 4, 6]);
    const squares = ways([0, 2, 5, 10, 20], [0, 1, 2, 5]);
    const strong = [12, 18, 24, 30, 36, 48, 60];
    const ladders = limits.FanSettingsFields.ladder.choices;
    const all: Knob[] = [
      { control: "ahead", name: NAMES.ahead, options: named(far), values: far, field: "ahead_m" },
      { control: "behind", name: NAMES.behind, options: named(back), values: back, field: "behind_m" },
      { control: "deep", name: NAMES.deep, options: named(down), values: down, field: "deep_m" },
      {
        control: "contrast",
        name: NAMES.contrast,
        options: strong.map((one) => `${one} dB`),
        values: strong,
        field: "strong_db",
      },
      {
        control: "weak_end",
        name: NAMES.weak_end,
        options: count(12),
        values: numbers(12),
        field: "weak_steps",
      },
      { control: "clutter", name: NAMES.clutter, options: count(3), values: numbers(3), field: "clutter" },
      { control: "repeats", name: NAMES.repeats, options: count(2), values: numbers(2), field: "repeats" },
      {
        control: "damping",
        name: NAMES.damping,
        options: named(damp),
        values: damp,
        field: "damping_m",
      },
      { control: "tails", name: NAMES.tails, options: count(3), values: numbers(3), field: "tails" },
      {
        control: "ground",
        name: NAMES.ground,
        options: ["off", "on"],
        values: [false, true],
        field: "ground",
      },
      {
        control: "squares",
        name: NAMES.squares,
        options: named(squares),
        values: squares,
        field: "square_m",
      },
      {
        control: "numbers",
        name: NAMES.numbers,
        options: ["none", "distance", "depth", "both"],
        values: ["none", "distance", "depth", "both"],
        field: "numbers",
      },
      {
        control: "heading",
        name: NAMES.heading,
        options: ["off", "on"],
        values: [false, true],
        field: "heading",
      },
      {
        control: "levelling",
        name: NAMES.levelling,
        options: ["off", "on"],
        values: [false, true],
        field: "levelling",
      },
      {
        control: "ladder",
        name: NAMES.ladder,
        options: ladders.map((one) => one.label),
        values: ladders.map((one) => one.value),
        field: "ladder",
      },
      {
        control: "screen",
        name: NAMES.screen,
        options: [20, 40, 60, 80, 100].map((one) => `${one} %`),
        values: [0.2, 0.4, 0.6, 0.8, 1],
        field: "screen",
      },
    ];
    return all.filter((one) => has(one.control));
  });

  /** Where a setting stands in its list: the nearest entry, for one that the coach or another unit has set. */
  function placeOf({ values, field }: Knob): number {
    const now = settings[field];
    if (typeof now !== "number") return Math.max(values.indexOf(now), 0);
    const away = values.map((one) => Math.abs(Number(one) - now));
    return away.indexOf(Math.min(...away));
  }
  const shown = (knob: Knob) => {
    const at = placeOf(knob);
    const [now, near] = [settings[knob.field], knob.values[at]];
    if (typeof now !== "number" || Math.abs(now - Number(near)) < 1e-3) return knob.options;
    const own = knob.field.endsWith("_m") ? depth(now, prefs.system) : trim(now, 1);
    return knob.options.map((one, k) => (k === at ? own : one));
  };
  const costs = (control: Control) => {
    const told = advice?.costs[control];
    return told ? sentence(told.text, told.values, prefs.system) : "";
  };

  const lure = $derived(lures[0] ?? null);
  const hung = (change: Partial<HungLure>) =>
    set({ lures: lures.map((one, k) => (k === 0 ? { ...one, ...change } : one)) });
  const step = $derived(feet ? fromDepth(1, "feet") : 0.25);
  const to = (value: number, low: number, high: number) =>
    Math.min(Math.max(Math.round(value / step) * step, low), high);
  const tenth = (value: number) => `${trim(toDepth(value, prefs.system), 1)} ${feet ? "ft" : "m"}`;
  const hangs = $derived([
    {
      name: "Head hangs at",
      value: tenth(hang.depth_m),
      by: (way: number) => set({ hang: { depth_m: to(hang.depth_m + way * step, 0.1, 20) } }),
    },
    {
      name: "Looks too high or low",
      value: `${trim(hang.nose_up_deg, 0)}°`,
      by: (way: number) =>
        set({ hang: { nose_up_deg: Math.min(Math.max(hang.nose_up_deg + 2 * way, -30), 30) } }),
    },
    {
      name: "Leans over",
      value: `${trim(hang.roll_deg, 0)}°`,
      by: (way: number) => set({ hang: { roll_deg: Math.min(Math.max(hang.roll_deg + 2 * way, -30), 30) } }),
    },
    {
      name: "Head off the handle",
      value: `${trim(hang.off_deg, 0)}°`,
      by: (way: number) => set({ hang: { off_deg: Math.min(Math.max(hang.off_deg + 5 * way, -180), 180) } }),
    },
  ]);
</script>

<section class="set">
  <h2>The head</h2>
  <Choice
    name="How it is mounted"
    options={[
      { value: "ahead", label: "Looks ahead" },
      { value: "down", label: "Looks down" },
    ]}
    value={hang.mounting}
    choose={(mounting) => set({ hang: { mounting: mounting as "ahead" | "down" } })}
  />
  {#each hangs as one (one.name)}
    <ListKnob name={one.name} options={["", one.value, ""]} at={1} choose={(at) => one.by(at - 1)} />
  {/each}
  {#if lure}
    <ListKnob
      name="Lure hangs at"
      options={["", tenth(lure.depth_m), ""]}
      at={1}
      choose={(at) => hung({ depth_m: to(lure.depth_m + (at - 1) * step, 0.2, 60) })}
    />
    <ListKnob
      name="Its hole, north of yours"
      options={["", tenth(lure.north_m), ""]}
      at={1}
      choose={(at) => hung({ north_m: to(lure.north_m + (at - 1) * step, 0, 12) })}
    />
  {/if}
  <h2>The picture</h2>
  {#each knobs as knob (knob.control)}
    <ListKnob
      name={knob.name}
      options={shown(knob)}
      at={placeOf(knob)}
      choose={(at) => set({ settings: { [knob.field]: knob.values[at] } })}
      does={costs(knob.control)}
    />
  {/each}
</section>

<style>
  .set {
    display: grid;
    gap: 8px;
  }
</style>
