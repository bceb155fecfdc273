// Words that stand for a moment and then make room again.

export class Notice {
  text: string | null = $state(null);
  private silence: number | undefined;

  constructor(private readonly ms: number) {}

  say(text: string) {
    this.text = text;
    window.clearTimeout(this.silence);
    this.silence = window.setTimeout(() => (this.text = null), this.ms);
  }

  clear() {
    window.clearTimeout(this.silence);
    this.text = null;
  }
}
