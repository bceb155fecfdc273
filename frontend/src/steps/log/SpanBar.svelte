<script lang="ts">
  // A span on a scale that begins at nothing: the likely value as a stroke, your usual as a line through all of them.
  import type { Spread } from "../../lib/api/types";

  let {
    spread,
    most,
    usual,
    sure,
  }: { spread: Spread; most: number; usual: number; sure: "better" | "worse" | null } = $props();

  const at = (value: number) => `${Math.min((100 * value) / most, 100)}%`;
</script>

<span class="scale" aria-hidden="true">
  <span
    class="span"
    class:better={sure === "better"}
    class:worse={sure === "worse"}
    style:left={at(spread.low)}
    style:width={`calc(${at(spread.high)} - ${at(spread.low)})`}
  ></span>
  <span class="likely" style:left={at(spread.likely)}></span>
  <span class="usual" style:left={at(usual)}></span>
</span>

<style>
  .scale {
    position: relative;
    display: block;
    height: 22px;
    min-width: 90px;
    background: var(--panel);
    border-bottom: 1.5px solid var(--line);
  }

  .span {
    position: absolute;
    top: 7px;
    height: 9px;
    min-width: 2px;
    border-radius: 2px;
    background: var(--soft);
    opacity: 0.75;
  }

  .span.better {
    background: var(--pine);
    opacity: 1;
  }

  .span.worse {
    background: var(--stop);
    opacity: 1;
  }

  .likely {
    position: absolute;
    top: 2px;
    width: 4px;
    height: 19px;
    margin-left: -2px;
    background: var(--ink);
  }

  .usual {
    position: absolute;
    top: 0;
    bottom: 0;
    border-left: 2px dashed var(--action);
  }
</style>
