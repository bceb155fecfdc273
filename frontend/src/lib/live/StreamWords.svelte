<script lang="ts">
  // What the stream has to say over the picture: why there is none yet, or that the water stands still.
  import type { BenchStream } from "./stream.svelte";

  let { stream, waiting }: { stream: BenchStream | null; waiting: string } = $props();
</script>

{#if !stream?.bench}
  <p class="waiting">{stream?.message || waiting}</p>
{:else if stream.message}
  <p class="link" role="alert">{stream.message}</p>
{/if}

<style>
  .waiting {
    place-self: center;
    padding: 24px;
  }

  .link {
    position: absolute;
    inset: 12px 12px auto 12px;
    padding: 10px 14px;
    border: 2px solid var(--stop);
    border-radius: 6px;
    background: var(--panel);
    color: var(--stop);
    font-weight: 700;
  }
</style>
