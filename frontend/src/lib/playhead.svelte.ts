// Where a picture that is played again stands, and whether it runs.
import { onMount } from "svelte";

export class Playhead {
  /** [s] */
  time = $state(0);
  running = $state(false);
  speed = $state(1);

  /** `end` says where it stops by itself [s]. Made while a component is set up, it runs as long as that is there. */
  constructor(private readonly end: () => number) {
    onMount(() => {
      let before = 0;
      let request = requestAnimationFrame(
        function again(this: Playhead, at: number) {
          if (this.running) this.move(before ? (at - before) / 1000 : 0);
          before = at;
          request = requestAnimationFrame(again.bind(this));
        }.bind(this),
      );
      return () => cancelAnimationFrame(request);
    });
  }

  private move(seconds: number) {
    const end = this.end();
    this.time = Math.min(this.time + this.speed * seconds, end);
    if (this.time >= end) this.running = false;
  }

  play(from: number) {
    this.time = from;
    this.running = true;
  }

  /** Pause, or go on; from the end on it begins again. */
  toggle(from: number) {
    if (this.running) this.stop();
    else this.play(this.time >= this.end() ? from : this.time);
  }

  /** Stand still at a time [s]. */
  stop(at = this.time) {
    this.time = at;
    this.running = false;
  }
}

/** Who asks for less motion gets the picture whole. */
export const calm = () => window.matchMedia("(prefers-reduced-motion: reduce)").matches;
