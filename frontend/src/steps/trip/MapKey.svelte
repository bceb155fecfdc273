<script lang="ts">
  // What the signs and inks of the map mean.
  import { prefs } from "../../lib/prefs.svelte";
  import { depth, depthUnit, toDepth, trim } from "../../lib/units";
  import { trip } from "./trip.svelte";

  const system = $derived(prefs.system);
</script>

<ul class="key" aria-label="What the map shows">
  {#if trip.band}
    <li>
      <i class="solid"></i>{trim(toDepth(trip.band.from_m, system), 1)} to {depth(trip.band.to_m, system)},
      sure
    </li>
    <li><i class="hatched"></i>may be, a guess</li>
  {/if}
  <li><i class="edge"></i>edge, teeth downhill, hollow where unsure</li>
  <li><i class="dashed"></i>depth in {depthUnit(system)}, dashed where unsure</li>
  {#if (trip.things?.fished ?? []).some((one) => one.how === "left in autumn")}
    <li><i class="left"></i>fish left here in autumn</li>
  {/if}
  <li><i class="ring"></i>another place to take in</li>
  <li><i class="learn"></i>a hole here teaches most</li>
  {#if (trip.things?.ice.length ?? 0) > 0}<li>
      <i class="figure">6</i>ice, {system === "feet" ? "in" : "cm"}
    </li>{/if}
</ul>

<style>
  .ring {
    background: color-mix(in srgb, var(--panel) 70%, transparent);
    outline: 2.5px solid var(--action);
  }

  .key {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 16px;
    margin: 0;
    padding: 4px 2px;
    list-style: none;
    font-size: 0.88rem;
    color: var(--soft);
  }

  .key li {
    display: flex;
    align-items: center;
    gap: 6px;
  }

  .key i {
    position: relative;
    flex: none;
    width: 22px;
    height: 14px;
  }

  .solid {
    background: var(--band);
    border: 2px solid var(--pine);
  }

  .hatched {
    background: repeating-linear-gradient(
      -45deg,
      color-mix(in srgb, var(--pine) 55%, transparent) 0 2.4px,
      transparent 2.4px 8px
    );
    border: 1.5px solid var(--line);
  }

  .edge::before {
    content: "";
    position: absolute;
    inset: 4px 0 auto;
    border-top: 2px solid var(--ink);
  }

  .edge::after {
    content: "";
    position: absolute;
    left: 7px;
    top: 6px;
    border: solid transparent;
    border-width: 7px 4px 0;
    border-top-color: var(--ink);
  }

  .dashed::before {
    content: "";
    position: absolute;
    inset: 6px 0 auto;
    border-top: 2px dashed var(--ice-edge);
  }

  .key .left {
    width: 11px;
    height: 11px;
    margin: 0 4px;
    border: 3px solid var(--pine);
    rotate: 45deg;
  }

  .key .ring {
    width: 12px;
    height: 12px;
    margin: 0 3px;
    border-radius: 50%;
  }

  .key .learn {
    width: 18px;
    height: 18px;
  }

  .key .figure {
    border: 1.5px solid var(--ice-edge);
    background: var(--ice);
    font: 600 0.75rem/12px var(--figures);
    text-align: center;
  }

  .learn::before,
  .learn::after {
    content: "";
    position: absolute;
    background: var(--ink);
  }

  .learn::before {
    left: 50%;
    top: 2px;
    bottom: 2px;
    width: 3px;
    margin-left: -1.5px;
  }

  .learn::after {
    top: 50%;
    left: 2px;
    right: 2px;
    height: 3px;
    margin-top: -1.5px;
  }
</style>
