<script lang="ts">
  // The Search step: looking around from one hole, in made-up water or by hand on the ice; ahead with the fan; and searching for real.
  import { onMount } from "svelte";
  import { type Panel, PANELS } from "../../lib/panels";
  import type { DrilledAt } from "../../lib/api/types";
  import { drilledAt, world } from "../../lib/world.svelte";
  import ForReal from "./ForReal.svelte";
  import LookAhead from "./LookAhead.svelte";
  import LookDown from "./LookDown.svelte";
  import Looking from "./Looking.svelte";
  import { type Place, search } from "./search.svelte";

  let part: Panel<"search"> = $state("look");
  let other: "real" | "ahead" | null = $state(null);
  /** The hole that is fished under the fan, as the address has it. */
  let down: DrilledAt | null = $state.raw(null);
  const address = (key: string) => `#/hole/${world.holeId ?? 0}/search/${key}`;

  onMount(() => {
    const read = () => {
      const [, key] = /\/search\/(\w+)/.exec(location.hash) ?? [];
      other = key === "real" || key === "ahead" ? key : null;
      const [, hole] = /\/search\/down\/([^/]+)/.exec(location.hash) ?? [];
      down = hole === undefined ? null : (drilledAt(hole)?.at ?? null);
      part = PANELS.search.find((one) => one.key === key)?.key ?? "look";
    };
    read();
    window.addEventListener("hashchange", read);
    return () => window.removeEventListener("hashchange", read);
  });

  function choose(where: Place) {
    const elsewhere = where === "real" || where === "ahead";
    if (!elsewhere) search.byHand = where === "hand";
    location.hash = address(elsewhere ? where : "look");
  }
</script>

{#if down}
  {#key JSON.stringify(down)}<LookDown at={down} {choose} />{/key}
{:else if other === "real"}
  <ForReal {choose} />
{:else if other === "ahead"}
  <LookAhead {choose} />
{:else}
  <Looking {part} {address} {choose} />
{/if}
