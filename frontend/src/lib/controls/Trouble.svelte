<script lang="ts">
  // What went wrong, said where it was asked for; nothing while all is well.
  let { words }: { words: string } = $props();
</script>

{#if words}<p role="alert">{words}</p>{/if}

<style>
  p {
    grid-column: 1 / -1;
    padding: 6px 12px;
    border-left: 6px solid var(--stop);
    background: var(--panel);
    color: var(--stop);
    font-weight: 700;
  }

  @media print {
    p {
      display: none;
    }
  }
</style>
