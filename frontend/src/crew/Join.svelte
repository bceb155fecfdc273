<script lang="ts">
  // Coming in: by the code that was read, or by six words that were said.
  let { join }: { join: (given: string, name: string) => Promise<void> } = $props();

  const code = /^#([0-9a-f]{32})$/.exec(location.hash)?.[1] ?? "";
  let words = $state("");
  let name = $state("");
  const given = $derived(code || words.trim());
</script>

<section aria-label="Come in">
  <h2>Come in</h2>
  <p>
    {code
      ? "The code was read. Say what you are called."
      : "Type the six words that the host's page shows, and what you are called."}
    An invitation is for one, and ends in ten minutes.
  </p>
  <form
    onsubmit={(event) => {
      event.preventDefault();
      void join(given, name.trim());
    }}
  >
    {#if !code}
      <label class="field"
        >Six words <input
          bind:value={words}
          autocomplete="off"
          autocapitalize="off"
          spellcheck="false"
        /></label
      >
    {/if}
    <label class="field">Your name <input bind:value={name} maxlength="40" autocomplete="off" /></label>
    <button class="primary" disabled={!given || !name.trim()}>Come in</button>
  </form>
  <p class="soft">
    Who hosts sees your name, your hole and your notes. Others in the crew see them too. Nothing else of this
    phone is asked for.
  </p>
</section>

<style>
  section,
  form {
    display: grid;
    gap: 10px;
  }

  input {
    width: 100%;
  }
</style>
