<script lang="ts">
  // One seat: who it is, with which unit and lure, at which hole.
  import type { Party } from "../../lib/api/types";
  import { world } from "../../lib/world.svelte";

  let {
    seat,
    k,
    holes,
    alone,
    change,
    sit,
    drop,
  }: {
    seat: Party["seats"][number];
    k: number;
    holes: number;
    alone: boolean;
    change: (patch: Partial<Party["seats"][number]>) => void;
    sit: (hole: number | null) => void;
    drop: () => void;
  } = $props();
</script>

<fieldset>
  <legend class="unseen">Seat {k + 1}</legend>
  <div class="who">
    <label class="field"
      >Who
      <input
        type="text"
        maxlength="40"
        autocomplete="off"
        value={seat.name}
        onchange={(event) => change({ name: event.currentTarget.value.trim() || `Seat ${k + 1}` })}
      /></label
    >
    <label class="field"
      >Hole
      <select
        value={seat.hole ?? -1}
        onchange={(event) => {
          const hole = Number(event.currentTarget.value);
          sit(hole < 0 ? null : hole);
        }}
      >
        {#each { length: holes } as _, h (h)}<option value={h}>{h + 1}</option>{/each}
        <option value={-1}>none yet</option>
      </select></label
    >
    <button type="button" onclick={drop} disabled={alone} aria-label="{seat.name} leaves">Leaves</button>
  </div>
  <div class="gear">
    <label class="field"
      >Unit
      <select
        value={seat.unit_id}
        onchange={(event) => change({ unit_id: Number(event.currentTarget.value) })}
      >
        {#each world.units as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
      </select></label
    >
    <label class="field"
      >Lure
      <select
        value={seat.lure_id ?? -1}
        onchange={(event) => {
          const id = Number(event.currentTarget.value);
          change({ lure_id: id < 0 ? null : id });
        }}
      >
        <option value={-1}>5 mm tungsten jig</option>
        {#each world.lures as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
      </select></label
    >
  </div>
</fieldset>

<style>
  fieldset {
    display: grid;
    gap: 6px;
    margin: 0;
    padding: 6px 0;
    border: 0;
    border-bottom: 1px solid var(--line);
    min-width: 0;
  }

  .who,
  .gear {
    display: grid;
    gap: 6px;
    align-items: end;
  }

  .who {
    grid-template-columns: minmax(0, 1fr) 92px auto;
  }

  .gear {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  }

  input,
  select {
    width: 100%;
    min-width: 0;
  }
</style>
