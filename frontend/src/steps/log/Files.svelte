<script lang="ts">
  // Everything in and out: the log as files, weather from a station of one's own, and a backup with its way back.
  import { api, ok, words } from "../../lib/api/client";
  import type { BackupTold, TakenIn, WeatherTold } from "../../lib/api/types";
  import FileButton from "../../lib/controls/FileButton.svelte";
  import Sources from "../../lib/controls/Sources.svelte";
  import Trouble from "../../lib/controls/Trouble.svelte";
  import Dialog from "../../lib/overlay/Dialog.svelte";
  import { sendFile } from "../../lib/send_file";
  import { when } from "../../lib/when";
  import { world } from "../../lib/world.svelte";

  let trouble = $state("");
  let said = $state("");
  let busy = $state("");
  let restoring = $state<File | null>(null);

  async function does(what: string, work: () => Promise<string>) {
    trouble = said = "";
    busy = what;
    try {
      said = await work();
    } catch (problem) {
      trouble = words(problem);
    } finally {
      busy = "";
    }
  }

  const takeLog = (file: File) =>
    does("Taking the log in", async () => {
      const { outings, stays, happenings, known } = await sendFile<TakenIn>(
        "/api/log/file",
        file,
        () => undefined,
      );
      return `${outings} outings, ${stays} stays and ${happenings} notes were taken in; ${known} were here already.`;
    });

  const takeWeather = (file: File) =>
    does("Reading the station's file", async () => {
      const text = await file.text();
      const body = { text, utc_offset_min: -new Date().getTimezoneOffset() };
      const { readings, filled }: WeatherTold = await ok(api.POST("/api/log/weather", { body }));
      return `${readings} readings; pressure and its trend were filled in on ${filled} outings. What you had noted yourself stays.`;
    });

  const restore = (file: File) =>
    does("Putting the backup in place", async () => {
      restoring = null;
      const told = await sendFile<BackupTold>("/api/backup", file, () => undefined);
      await world.load();
      return `All is as it was on ${when(told.made_at, true)}. What was here before stands beside the store as ${told.kept_before}.`;
    });
</script>

<section class="files" aria-label="In and out">
  <Trouble words={trouble} />
  <p class="said" role="status">{busy ? `${busy}.` : said}</p>

  <div>
    <h2>The log as a file</h2>
    <p>
      Everything you noted, for a spreadsheet, for pandas, or for another machine. What is taken in and was
      here already is not taken twice.
    </p>
    <div class="button-row">
      <a class="button" href="/api/log/file?kind=csv" download>Tables (CSV in a ZIP)</a>
      <a class="button" href="/api/log/file?kind=json" download>One file (JSON)</a>
      <FileButton
        label="Take a log in"
        name="Log file"
        accept=".json,.zip,application/json,application/zip"
        take={(file) => void takeLog(file)}
      />
    </div>
  </div>

  <div>
    <h2>Weather from a station of your own</h2>
    <p>
      A CSV with a column of times and one of pressure. It fills in pressure, and whether it fell or rose, on
      outings where nobody noted them.
    </p>
    <div class="button-row">
      <FileButton
        label="Read a station's CSV"
        name="Station file"
        accept=".csv,text/csv,text/plain"
        take={(file) => void takeWeather(file)}
      />
    </div>
  </div>

  <div>
    <h2>A backup of everything</h2>
    <p>
      Holes, gear, lakes, the log, recordings and runs in one file with its checksum. One that was cut short
      or altered is refused.
    </p>
    <div class="button-row">
      <a class="button primary" href="/api/backup" download>Make a backup</a>
      <FileButton
        label="Put a backup back"
        name="Backup file"
        accept=".zip,application/zip"
        take={(file) => (restoring = file)}
      />
    </div>
  </div>
  <Sources of="log" />
</section>

{#if restoring}
  {@const file = restoring}
  <Dialog label="Put a backup back" close={() => (restoring = null)}>
    <h2>Put {file.name} in place of everything?</h2>
    <p>
      All that is here now makes way for what is in the file. It is kept beside the store, so that nothing is
      lost, but not on these pages.
    </p>
    <div class="button-row">
      <button class="primary" onclick={() => void restore(file)}>Put it in place</button>
      <button onclick={() => (restoring = null)}>Leave all as it is</button>
    </div>
  </Dialog>
{/if}

<style>
  .files {
    display: grid;
    align-content: start;
    gap: 22px;
    padding: 14px 20px;
    max-width: 900px;
    overflow-y: auto;
    min-height: 0;
  }

  .files > div {
    display: grid;
    gap: 6px;
  }

  .said {
    min-height: 1.4em;
    color: var(--pine);
    font-weight: 600;
  }

  @media (max-width: 760px) {
    .files {
      padding: 10px;
    }
  }
</style>
