<script lang="ts">
  // A friend's places taken in: all of them or none, nothing twice, and what came said.
  import { api, ok, words } from "../../lib/api/client";
  import type { PlacesTaken } from "../../lib/api/types";
  import FileButton from "../../lib/controls/FileButton.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import { world } from "../../lib/world.svelte";
  import { trip } from "./trip.svelte";

  let { taken = () => {} }: { taken?: () => void } = $props();

  let trouble = $state("");
  let said = $state("");
  let busy = $state(false);

  const told = (one: PlacesTaken, name: string) => {
    const came = [
      [one.holes, "hole", "holes"],
      [one.structures, "structure", "structures"],
      [one.soundings, "sounding", "soundings"],
    ] as const;
    const parts = came
      .filter(([count]) => count > 0)
      .map(([count, a, many]) => `${count} ${count === 1 ? a : many}`);
    const here = one.known > 0 ? ` ${one.known} were here already.` : "";
    return parts.length > 0
      ? `Taken in at ${name}: ${parts.join(", ")}.${here}`
      : `Nothing new at ${name}: all of it was here already.`;
  };

  async function take(file: File) {
    trouble = said = "";
    busy = true;
    try {
      const answer = await ok(api.POST("/api/places/file", { body: { text: await file.text() } }));
      const [{ lakes }, { holes }] = await Promise.all([
        ok(api.GET("/api/lakes")),
        ok(api.GET("/api/holes")),
      ]);
      world.holes = holes;
      world.readAddress();
      trip.lakes = lakes;
      const lake = lakes.find((one) => one.id === answer.lake_id);
      if (lake) await trip.open(lake);
      said = told(answer, lake?.name ?? "the lake");
      taken();
    } catch (problem) {
      trouble = words(problem);
    } finally {
      busy = false;
    }
  }
</script>

<FileButton
  label={busy ? "Taking in…" : "Take a friend's places in"}
  name="File of places"
  take={(file) => void take(file)}
/>
<Trouble words={trouble} />
<p role="status">{said}</p>
