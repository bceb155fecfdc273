// What is typed and not saved yet: kept through another step, hole or unit, other units of measure, and a reload.
const STORED = "hollow-glint drafts";

function stored(): Record<string, unknown> {
  try {
    return JSON.parse(sessionStorage.getItem(STORED) ?? "{}") as Record<string, unknown>;
  } catch {
    return {}; // a browser that keeps nothing: drafts last as long as the page
  }
}

class Drafts {
  private kept: Record<string, unknown> = $state(stored());

  has = (key: string) => key in this.kept;

  get<T>(key: string): T | null {
    return key in this.kept ? ($state.snapshot(this.kept[key]) as T) : null;
  }

  /** Keep a form as it stands, or forget it where it is what is stored: pass null. */
  keep(key: string, form: unknown) {
    const { [key]: _, ...others } = this.kept;
    this.kept = form === null ? others : { ...others, [key]: form };
    try {
      sessionStorage.setItem(STORED, JSON.stringify(this.kept));
    } catch {
      // as above
    }
  }
}

export const drafts = new Drafts();
