// What is in the hand just now: the depth, unit, lure, water, light and company that the card is asked for; where one is.
import { minuteNow } from "../lib/when";
import type { Card, Combination, Sheet } from "./told";

export class Chosen {
  depth_m = $state(8);
  at: Combination = $state.raw({ unit: 0, lure: 0, clarity: 0, light: 0, company: 0 });
  /** The name of the spot where one stands; null for the first of the list. */
  spot: string | null = $state(null);

  constructor(private readonly sheet: Sheet) {
    this.at = { ...this.at, light: this.lightNow() };
    const [first] = sheet.told.judged;
    if (first) this.depth_m = first.depth_m;
  }

  c = $derived.by(() => this.sheet.combination(this.at));
  nearest = $derived.by(() => this.sheet.nearest(this.depth_m));
  card: Card | null = $derived.by(() => this.sheet.card(this.c, this.nearest.k));
  gear = $derived.by(() => {
    const { along } = this.sheet.told;
    return { unit: along.units[this.at.unit]!.name, lure: along.lures[this.at.lure]! };
  });

  set(patch: Partial<Combination>) {
    this.at = { ...this.at, ...patch };
  }

  /** The cards of the other lights at this depth, in the order in which a day goes through them. */
  get lights(): { light: string; card: Card | null }[] {
    return this.sheet.told.along.lights.map((light, n) => ({
      light,
      card: this.sheet.card(this.sheet.combination({ ...this.at, light: n }), this.nearest.k),
    }));
  }

  /** The light that it is now by the day's sun, as far as the sheet has it; else its first. */
  private lightNow(): number {
    const { plan, day, along } = this.sheet.told;
    const min = minuteNow(day.utc_offset_min);
    const { dawn_min, sunrise_min, sunset_min, dusk_min } = plan.sun;
    if (sunrise_min === null || sunset_min === null) return 0;
    const now =
      min >= sunrise_min && min < sunset_min
        ? "day"
        : min >= (dawn_min ?? sunrise_min) && min < (dusk_min ?? sunset_min)
          ? "dusk"
          : "night";
    return Math.max(along.lights.indexOf(now), 0);
  }
}
