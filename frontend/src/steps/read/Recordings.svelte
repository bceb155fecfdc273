<script lang="ts">
  // Recordings: kept from the Bench or taken in from a file, to be replayed, noted on and given on.
  import { onMount } from "svelte";
  import { undo } from "../../lib/undo.svelte";
  import { api, ok, words } from "../../lib/api/client";
  import { when } from "../../lib/when";
  import type { Hole, Import, RecordingSummary } from "../../lib/api/types";
  import FileButton from "../../lib/controls/FileButton.svelte";
  import RemoveButton from "../../lib/controls/RemoveButton.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import Replay from "./Replay.svelte";
  import { sendFile } from "../../lib/send_file";

  let { hole }: { hole: Hole } = $props();

  let recordings: RecordingSummary[] = $state([]);
  let open = $state<number | null>(null);
  let trouble = $state("");
  let coming = $state<{ name: string; share: number; what: string } | null>(null);
  let loaded = $state(false);

  onMount(() => void load());

  async function load() {
    try {
      recordings = (await ok(api.GET("/api/recordings"))).recordings;
      trouble = "";
    } catch (problem) {
      trouble = words(problem);
    }
    loaded = true;
  }

  async function take(file: File) {
    trouble = "";
    coming = { name: file.name, share: 0, what: "sending" };
    try {
      let job = await sendFile<Import>(
        `/api/recordings/file?${new URLSearchParams({ name: file.name, hole_id: String(hole.id) })}`,
        file,
        (share) => (coming = { name: file.name, share: 0.3 * share, what: "sending" }),
      );
      while (job.state === "reading") {
        coming = { name: file.name, share: 0.3 + 0.7 * job.share, what: "reading the marks" };
        await new Promise((resolve) => window.setTimeout(resolve, 400));
        job = await ok(api.GET("/api/imports/{import_id}", { params: { path: { import_id: job.id } } }));
      }
      if (job.state === "refused") trouble = `${file.name} was not taken in: ${job.problem}`;
      await load().then(() => {
        if (job.state === "refused") trouble = `${file.name} was not taken in: ${job.problem}`;
      });
      if (job.recording) open = job.recording.id;
    } catch (problem) {
      trouble = words(problem);
    } finally {
      coming = null;
    }
  }

  async function forget(recording: RecordingSummary) {
    try {
      const gone = await ok(
        api.DELETE("/api/recordings/{recording_id}", { params: { path: { recording_id: recording.id } } }),
      );
      undo.kept(`${recording.name} is removed.`, gone, load);
      await load();
    } catch (problem) {
      trouble = words(problem);
    }
  }

  function lasts(seconds: number): string {
    const whole = Math.round(seconds);
    return whole < 60 ? `${whole} s` : `${Math.floor(whole / 60)} min ${whole % 60} s`;
  }
</script>

{#if open !== null}
  {#key open}<Replay
      id={open}
      {hole}
      close={() => {
        open = null;
        void load();
      }}
    />{/key}
{:else}
  <div class="recordings">
    <Trouble words={trouble} />
    <section class="head">
      <p>
        The Bench keeps its last five minutes: press <b>Keep the last minutes</b> there. Files come and go as netCDF-4
        (SONAR-netCDF4) or CSV.
      </p>
      <FileButton
        label="Take in a recording"
        name="Recording file"
        accept=".nc,.csv,text/csv,application/x-netcdf"
        {take}
      />
    </section>
    {#if coming}
      <p role="status" class="coming">
        {coming.name}: {coming.what}
        <progress max="1" value={coming.share} aria-label="How far {coming.name} is"></progress>
        {Math.round(100 * coming.share)} %
      </p>
    {/if}
    {#if loaded && recordings.length === 0 && !coming}
      <p class="none">No recordings yet. Keep one from the Bench, or take in a file.</p>
    {/if}
    <ul class="lines">
      {#each recordings as one (one.id)}
        <li>
          <div class="what">
            <b>{one.name}</b>
            <span>{lasts(one.seconds)}{one.started_at ? `, ${when(one.started_at, true)}` : ""}</span>
            {#each one.remarks as remark (remark)}<small>{remark}</small>{/each}
          </div>
          <button class="primary" onclick={() => (open = one.id)}>Replay</button>
          <a class="button" href="/api/recordings/{one.id}/file?format=nc" download>netCDF</a>
          <a class="button" href="/api/recordings/{one.id}/file?format=csv" download>CSV</a>
          <RemoveButton what="Remove {one.name}" remove={() => void forget(one)} />
        </li>
      {/each}
    </ul>
  </div>
{/if}

<style>
  .recordings {
    display: grid;
    align-content: start;
    gap: 12px;
    padding: 16px;
    overflow-y: auto;
    min-height: 0;
  }

  .head {
    display: flex;
    flex-wrap: wrap;
    gap: 12px;
    align-items: center;
  }

  .head p {
    flex: 1 1 320px;
    color: var(--soft);
  }

  li {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
  }

  .what {
    flex: 1 1 260px;
    display: grid;
  }

  .what span,
  .what small,
  .none {
    color: var(--soft);
  }

  progress {
    width: 200px;
    accent-color: var(--action);
    vertical-align: middle;
  }

  @media (max-width: 760px) {
    .recordings {
      padding: 10px;
    }
  }
</style>
