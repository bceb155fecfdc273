<script lang="ts">
  // The gear: units and lures. Copy a generic unit, change what differs on your own, and all advice is in its numbers.
  import { undo } from "../../lib/undo.svelte";
  import { api, ifMatch, ok, Problem, sendFile, words } from "../../lib/api/client";
  import Sources from "../../lib/controls/Sources.svelte";
  import type { Lure, LureFields, Profile, Unit } from "../../lib/api/types";
  import BothVersions from "../../lib/controls/BothVersions.svelte";
  import FileButton from "../../lib/controls/FileButton.svelte";
  import { panelOf } from "../../lib/controls/panel";
  import RemoveButton from "../../lib/controls/RemoveButton.svelte";
  import Tabs from "../../lib/controls/Tabs.svelte";
  import { type Difference, differences } from "../../lib/differences";
  import Dialog from "../../lib/overlay/Dialog.svelte";
  import { drafts } from "../../lib/drafts.svelte";
  import { prefs } from "../../lib/prefs.svelte";
  import { trim } from "../../lib/units";
  import { world } from "../../lib/world.svelte";
  import Calibrate from "./Calibrate.svelte";
  import MostLike from "./MostLike.svelte";
  import LureForm from "./LureForm.svelte";
  import UnitForm from "./UnitForm.svelte";
  import { unitDifferences } from "./unit";

  let unit: Unit | null = $state(null);
  /** The lure on the form; a new one has no number yet. */
  let lure: { id: number | null; version: number; fields: LureFields } | null = $state(null);
  let said = $state("");
  let wrong = $state(false);
  const PARTS = [
    { key: "profile", name: "Profile" },
    { key: "calibrate", name: "Calibrate" },
  ] as const;
  let part: (typeof PARTS)[number]["key"] = $state("profile");
  /** Counts up when the profile on the form is another's doing, so that the form starts again from it. */
  let fresh = $state(0);

  /** Changed elsewhere since: what differs, and what to do with either version. */
  let conflict = $state<{ rows: Difference[]; keep: () => void; take: () => void } | null>(null);

  async function attempt(work: () => Promise<string>, stale?: (now: Record<string, unknown>) => void) {
    conflict = null;
    try {
      said = await work();
      wrong = false;
      await world.loadGear();
    } catch (problem) {
      said = words(problem);
      wrong = true;
      if (problem instanceof Problem && problem.now && stale) {
        said = "";
        stale(problem.now);
      }
    }
  }

  const profile = ({ id: _, version: __, ...fields }: Unit): Profile => fields;
  const asForm = ({ id, version, ...fields }: Lure) => ({ id, version, fields });

  const copy = (one: Unit) =>
    attempt(async () => {
      const made = await ok(
        api.POST("/api/units", { body: { ...profile(one), name: `My ${one.name}`.slice(0, 80) } }),
      );
      unit = made;
      lure = null;
      return `${made.name} is added. Answer what differs on your own.`;
    });

  const unitDraft = (id: number) => `unit ${id}`;
  const lureDraft = (id: number | null) => `lure ${id ?? "new"}`;

  const saveUnit = ({ id, version }: Unit, fields: Profile): Promise<void> =>
    attempt(
      async () => {
        const params = { path: { unit_id: id }, header: ifMatch(version) };
        unit = await ok(api.PUT("/api/units/{unit_id}", { params, body: fields }));
        drafts.keep(unitDraft(id), null);
        fresh++;
        return `${fields.name} is saved.`;
      },
      (now) => {
        const theirs = now as Unit;
        conflict = {
          rows: unitDifferences(fields, theirs, prefs.system),
          keep: () => void saveUnit(theirs, fields),
          take: () => {
            drafts.keep(unitDraft(id), null);
            unit = theirs;
            fresh++;
            void attempt(() => Promise.resolve(`${theirs.name} is as it is kept.`));
          },
        };
      },
    );

  const removeUnit = (one: Unit) =>
    attempt(async () => {
      // Its form goes first: it would have what is typed judged beside a unit that is not there any more.
      const open = unit?.id === one.id ? unit : null;
      if (open) unit = null;
      const gone = await ok(
        api.DELETE("/api/units/{unit_id}", { params: { path: { unit_id: one.id } } }),
      ).catch((problem: unknown) => {
        unit ??= open;
        throw problem;
      });
      await undo.kept(`${one.name} is removed.`, gone, () => world.loadGear());
      return "";
    });

  const saveLure = (id: number | null, version: number, fields: LureFields): Promise<void> =>
    attempt(
      async () => {
        const kept =
          id === null
            ? await ok(api.POST("/api/lures", { body: fields }))
            : await ok(
                api.PUT("/api/lures/{lure_id}", {
                  params: { path: { lure_id: id }, header: ifMatch(version) },
                  body: fields,
                }),
              );
        drafts.keep(lureDraft(id), null);
        lure = asForm(kept);
        fresh++;
        return `${fields.name} is saved.`;
      },
      (now) => {
        const theirs = asForm(now as Lure);
        conflict = {
          rows: lureDifferences(fields, theirs.fields),
          keep: () => void saveLure(id, theirs.version, fields),
          take: () => {
            drafts.keep(lureDraft(id), null);
            lure = theirs;
            fresh++;
            void attempt(() => Promise.resolve(`${theirs.fields.name} is as it is kept.`));
          },
        };
      },
    );

  const mm = (m: number) => (m > 0 ? `${trim(1000 * m, 1)} mm` : "");
  const lureText = (one: LureFields) => ({
    ...one,
    diameter_m: mm(one.diameter_m),
    length_m: mm(one.length_m),
    spacing_m: mm(one.spacing_m),
  });
  const lureDifferences = (mine: LureFields, theirs: LureFields) =>
    differences(
      [
        ["name", "Name"],
        ["form", "Form"],
        ["material", "Material"],
        ["diameter_m", "Diameter"],
        ["length_m", "Length"],
        ["spacing_m", "Spacing"],
      ],
      lureText(mine),
      lureText(theirs),
    );

  const copyLure = (one: Lure) =>
    attempt(async () => {
      const { fields } = asForm(one);
      const kept = await ok(
        api.POST("/api/lures", { body: { ...fields, name: `My ${one.name}`.slice(0, 80) } }),
      );
      lure = asForm(kept);
      unit = null;
      return `${kept.name} is added. Change what differs on your own.`;
    });

  /** A gear file whose names are here already, until it is said what to do with them. */
  let doubled = $state<{ text: string; says: string } | null>(null);

  /** What a gear file holds that has a name here; nothing for one that cannot be read, which the program says. */
  function namedHere(text: string): string[] {
    try {
      const { units = [], lures = [] } = JSON.parse(text) as Partial<
        Record<"units" | "lures", { name: string }[]>
      >;
      const here = [...world.units, ...world.lures].map((one) => one.name);
      return [...units, ...lures].map((one) => one.name).filter((name) => here.includes(name));
    } catch {
      return [];
    }
  }

  async function take(file: File) {
    const text = await file.text();
    const names = namedHere(text);
    if (names.length > 0) doubled = { text, says: `${names.join(", ")}: here already.` };
    else await takeIn(text, "ask");
  }

  async function takeIn(text: string, same: "ask" | "replace" | "both") {
    doubled = null;
    const before = [...world.units];
    const lures = [...world.lures];
    await attempt(async () => {
      let taken;
      try {
        taken = await sendFile("/api/gear/file", text, { same });
      } catch (problem) {
        if (same !== "ask" || !(problem instanceof Problem) || problem.status !== 409) throw problem;
        doubled = { text, says: problem.message };
        return "";
      }
      if (same === "replace") offerBack(taken, before, lures);
      const names = [...taken.units, ...taken.lures].map((one) => one.name);
      return names.length > 0 ? `Taken in: ${names.join(", ")}.` : "The file holds no unit and no lure.";
    });
  }

  /** What was replaced can be put back as it was. */
  function offerBack(taken: { units: Unit[]; lures: Lure[] }, units: Unit[], lures: Lure[]) {
    undo.here("What was here is replaced by the file's.", () =>
      attempt(async () => {
        for (const now of taken.units) {
          const was = units.find((one) => one.id === now.id);
          const params = { path: { unit_id: now.id }, header: ifMatch(now.version) };
          if (was) await ok(api.PUT("/api/units/{unit_id}", { params, body: profile(was) }));
        }
        for (const now of taken.lures) {
          const was = lures.find((one) => one.id === now.id);
          const params = { path: { lure_id: now.id }, header: ifMatch(now.version) };
          if (was) await ok(api.PUT("/api/lures/{lure_id}", { params, body: asForm(was).fields }));
        }
        fresh++;
        return "As it was.";
      }),
    );
  }

  async function calibrated(made: Unit, words: string) {
    unit = made;
    fresh++;
    said = words;
    wrong = false;
    await world.loadGear();
  }

  const removeLure = (id: number, name: string) =>
    attempt(async () => {
      const gone = await ok(api.DELETE("/api/lures/{lure_id}", { params: { path: { lure_id: id } } }));
      lure = null;
      await undo.kept(`${name} is removed.`, gone, () => world.loadGear());
      return "";
    });

  const NEW_LURE: LureFields = {
    name: "New jig",
    form: "jig",
    material: "tungsten",
    diameter_m: 0.005,
    length_m: 0,
    spacing_m: 0,
  };
</script>

<main class="gear">
  {#if doubled}
    {@const file = doubled}
    <Dialog label="Gear that is here already" close={() => (doubled = null)}>
      <h2>Some of it is here already</h2>
      <p>{file.says}</p>
      <div class="parts">
        <button class="primary" onclick={() => void takeIn(file.text, "both")}>Keep both</button>
        <button onclick={() => void takeIn(file.text, "replace")}>Replace what is here</button>
        <button onclick={() => (doubled = null)}>Take nothing in</button>
      </div>
    </Dialog>
  {/if}
  <div class="lists">
    <h1>Gear</h1>
    <p class="said" class:wrong role="status">{said}</p>
    <section>
      <h2>Units</h2>
      <ul>
        {#each world.units as one (one.id)}
          <li>
            <button
              class="name"
              aria-pressed={unit?.id === one.id}
              onclick={() => {
                unit = one;
                lure = null;
                said = "";
              }}>{one.name}{drafts.has(unitDraft(one.id)) ? ", not saved" : ""}</button
            >
            <button aria-label="Copy {one.name}" onclick={() => copy(one)}>Copy</button>
          </li>
        {/each}
      </ul>
    </section>
    <section>
      <h2>Lures</h2>
      <ul>
        {#each world.lures as one (one.id)}
          <li>
            <button
              class="name"
              aria-pressed={lure?.id === one.id}
              onclick={() => {
                lure = asForm(one);
                unit = null;
                said = "";
              }}>{one.name}{drafts.has(lureDraft(one.id)) ? ", not saved" : ""}</button
            >
            <button aria-label="Copy {one.name}" onclick={() => copyLure(one)}>Copy</button>
          </li>
        {/each}
        <li>
          <button
            onclick={() => {
              lure = { id: null, version: 0, fields: NEW_LURE };
              unit = null;
              said = "";
            }}>Add a lure</button
          >
        </li>
      </ul>
    </section>
    <FileButton label="Take in a gear file" name="Gear file" take={(file) => void take(file)} />
    <Sources of="gear" />
  </div>
  <div class="form">
    {#if conflict}
      <BothVersions
        what={unit ? "This unit" : "This lure"}
        rows={conflict.rows}
        keep={conflict.keep}
        take={conflict.take}
      />
    {/if}
    {#if unit}
      {@const one = unit}
      <div class="parts">
        <Tabs id="unit" label={one.name} tabs={PARTS} current={part} choose={(to) => (part = to)} />
        <a class="button" href="/api/units/{one.id}/file" download>Save as a file</a>
        <RemoveButton what="Remove {one.name}" remove={() => removeUnit(one)} />
      </div>
      <div {...panelOf("unit", part)}>
        {#if part === "calibrate"}
          {#key one.id}<Calibrate unit={one} changed={calibrated} />{/key}
        {:else}
          {#key `${one.id} ${fresh} ${prefs.system}`}
            <UnitForm
              unit={profile(one)}
              id={one.id}
              draftKey={unitDraft(one.id)}
              save={(fields) => void saveUnit(one, fields)}
            />
          {/key}
        {/if}
      </div>
    {:else if lure}
      {@const one = lure}
      {#key `${one.id} ${fresh}`}
        <LureForm
          fields={one.fields}
          isNew={one.id === null}
          draftKey={lureDraft(one.id)}
          save={(fields) => void saveLure(one.id, one.version, fields)}
        />
      {/key}
      {#if one.id !== null}
        <div class="parts">
          <a class="button" href="/api/lures/{one.id}/file" download>Save as a file</a>
          <RemoveButton what="Remove {one.fields.name}" remove={() => removeLure(one.id!, one.fields.name)} />
        </div>
      {/if}
    {:else}
      <MostLike units={world.units} {copy} />
      <p>
        Batteries, ice and cold: keep lithium batteries warm and dry, check the ice as you go, tell someone
        where you are, and follow local rules.
      </p>
    {/if}
  </div>
</main>

<style>
  .gear {
    display: grid;
    grid-template-columns: 320px minmax(0, 1fr);
    min-height: 0;
  }

  .lists,
  .form {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    align-content: start;
    gap: 14px;
    padding: 16px 20px;
    overflow-y: auto;
    min-height: 0;
  }

  .lists {
    border-right: 1.5px solid var(--line);
  }

  .parts {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
  }

  .said:empty {
    display: none;
  }

  .wrong {
    color: var(--stop);
    font-weight: 600;
  }

  ul {
    display: grid;
    gap: 6px;
    margin: 8px 0 0;
    padding: 0;
    list-style: none;
  }

  li {
    display: flex;
    gap: 6px;
  }

  .name {
    flex: 1;
    text-align: left;
    line-height: 1.2;
  }

  @media (max-width: 760px) {
    /* One under the other, each as high as it is: the page scrolls, not they. */
    .gear {
      grid-template-columns: minmax(0, 1fr);
      grid-auto-rows: max-content;
      overflow-y: auto;
    }

    .lists,
    .form {
      overflow: visible;
      padding: 12px;
    }

    .lists {
      border-right: 0;
      border-bottom: 1.5px solid var(--line);
    }
  }

  @media (min-width: 1440px) {
    .gear {
      grid-template-columns: 400px minmax(0, 1fr);
    }
  }
</style>
