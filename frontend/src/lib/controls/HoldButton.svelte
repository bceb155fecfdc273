<script lang="ts">
  // A button that works while it is held: by finger, mouse, or Space and Enter when it has the focus.
  import type { Snippet } from "svelte";

  let {
    down,
    up,
    label,
    children,
    held = false,
  }: { down: () => void; up: () => void; label: string; children: Snippet; held?: boolean } = $props();

  let holding = $state(false);

  function press(event: Event) {
    event.preventDefault();
    if (holding) return;
    holding = true;
    down();
  }

  function release() {
    if (!holding) return;
    holding = false;
    up();
  }

  function key(event: KeyboardEvent, act: (event: Event) => void) {
    if (event.key !== " " && event.key !== "Enter") return;
    event.stopPropagation();
    act(event);
  }
</script>

<button
  class:holding={holding || held}
  aria-label={label}
  onpointerdown={(event) => {
    // Capture, so that a finger sliding off still lets go here; a synthetic pointer has nothing to capture.
    try {
      event.currentTarget.setPointerCapture(event.pointerId);
    } catch {
      /* see above */
    }
    press(event);
  }}
  onpointerup={release}
  onpointercancel={release}
  onlostpointercapture={release}
  oncontextmenu={(event) => event.preventDefault()}
  onkeydown={(event) => key(event, press)}
  onkeyup={(event) => key(event, release)}
  onblur={release}
>
  {@render children()}
</button>

<style>
  button {
    display: flex;
    flex-direction: column;
    align-items: center;
    justify-content: center;
    line-height: 1.15;
    touch-action: none;
    user-select: none;
  }

  .holding {
    background: var(--action);
    border-color: var(--action);
    color: var(--on-action);
  }
</style>
