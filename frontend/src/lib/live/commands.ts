// Commands on their way: while one is under way later ones are folded together, so that a dragged slider never queues.

/** What is done once, and must not be lost when it is folded into another. */
interface Once {
  set_hook?: boolean;
  twitch?: boolean;
  kick?: boolean;
  force?: string;
  rod?: string;
  lift_m_s?: number | null;
  to_depth_m?: number | null;
}

export class Commands<Command extends Once> {
  private waiting: Command | null = null;
  private sending = false;

  constructor(
    private readonly ready: () => boolean,
    /** Sends one; what goes wrong with it is its own affair. */
    private readonly post: (command: Command) => Promise<void>,
  ) {}

  /** Whether something asked for is not with the program yet. */
  get busy(): boolean {
    return this.waiting !== null || this.sending;
  }

  send(command: Command) {
    if (this.waiting && (this.waiting.set_hook || this.waiting.twitch || this.waiting.kick)) {
      if (!command.set_hook) {
        const { force, rod } = this.waiting;
        command = { ...command, force, rod };
      }
      command = {
        ...command,
        set_hook: command.set_hook || this.waiting.set_hook,
        twitch: command.twitch || this.waiting.twitch,
        ...(command.kick || this.waiting.kick ? { kick: true } : {}),
      };
    }
    const move = command.lift_m_s != null || command.to_depth_m != null;
    const rest = this.waiting
      ? move
        ? { ...this.waiting, lift_m_s: null, to_depth_m: null }
        : this.waiting
      : {};
    this.waiting = { ...rest, ...command };
    void this.flush();
  }

  private async flush() {
    if (this.sending || !this.waiting || !this.ready()) return;
    this.sending = true;
    const command = this.waiting;
    this.waiting = null;
    try {
      await this.post(command);
    } finally {
      this.sending = false;
      if (this.waiting) void this.flush();
    }
  }
}
