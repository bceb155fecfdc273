// Notes in the phone: kept at once, never thrown away by the sheet, and saved as a file that the program takes in.
import { isoNow } from "../lib/when";
import * as pictures from "./photos";
import type { Told } from "./told";

const KEPT = "hollow-glint pocket";
const KEEPS_NOTHING = "This phone keeps nothing for a page of its own. Save the notes before you close it.";

export interface Spot {
  name: string;
  hole_id: number | null;
  lake_id: number | null;
  water: string;
  east_m: number | null;
  north_m: number | null;
  depth_m: number | null;
}

interface Happening {
  at: string;
  kind: string;
  depth_m: number | null;
  trying: string | null;
  species: string | null;
  length_m: number | null;
  kept: boolean | null;
  ended: string | null;
  note: string;
}

export interface Note {
  id: string;
  turn: number;
  sheet: string;
  at: string;
  kind: "lines in" | "lines out" | "happening" | "sounding" | "ice" | "photo";
  spot: Spot;
  back: boolean;
  unit: string;
  lure: string;
  happening: Happening | null;
  depth_m: number | null;
  ice: { thickness_m: number; kind: string } | null;
}

interface Kept {
  phone: string;
  sheets: Record<string, string>;
  notes: Note[];
  /** Spots that were drilled on the ice. */
  spots: Spot[];
}

const word = () =>
  Array.from(crypto.getRandomValues(new Uint8Array(16)), (one) => one.toString(16).padStart(2, "0")).join("");

export class Notes {
  notes: Note[] = $state.raw([]);
  spots: Spot[] = $state.raw([]);
  /** Photos of a screen by their note's id, as base64. */
  photos: Record<string, string> = $state.raw({});
  /** Why nothing is kept in this phone, if so. */
  trouble = $state("");
  private phone = word();
  private sheets: Record<string, string> = {};

  constructor(private readonly told: Pick<Told, "id" | "made_at">) {
    this.load();
    void this.loadPhotos();
    this.sheets = { ...this.sheets, [told.id]: told.made_at };
    // Another page of this sheet in the same phone has kept something.
    window.addEventListener("storage", (event) => event.key === KEPT && this.load());
  }

  private load() {
    let text: string | null = null;
    try {
      text = localStorage.getItem(KEPT);
      const kept = JSON.parse(text ?? "null") as Kept | null;
      if (!kept) return;
      this.phone = kept.phone;
      this.sheets = { ...kept.sheets, ...this.sheets };
      this.notes = kept.notes;
      this.spots = kept.spots;
    } catch {
      this.trouble = KEEPS_NOTHING;
      // What cannot be read is laid aside and not written over: someone may still mend it.
      if (text !== null) localStorage.setItem(`${KEPT} unread`, text);
    }
  }

  private async loadPhotos() {
    try {
      this.photos = await pictures.allKept();
    } catch {
      // A page that may keep none has none.
    }
  }

  private keep() {
    const kept: Kept = { phone: this.phone, sheets: this.sheets, notes: this.notes, spots: this.spots };
    try {
      localStorage.setItem(KEPT, JSON.stringify(kept));
      this.trouble = "";
    } catch {
      this.trouble = KEEPS_NOTHING;
    }
  }

  /** One touch more. */
  add(kind: Note["kind"], spot: Spot, gear: { unit: string; lure: string }, what: Partial<Note>): Note {
    const note: Note = {
      id: word(),
      turn: this.notes.reduce((most, one) => Math.max(most, one.turn + 1), 0),
      sheet: this.told.id,
      at: isoNow(),
      kind,
      spot,
      back: false,
      ...gear,
      happening: null,
      depth_m: null,
      ice: null,
      ...what,
    };
    this.notes = [...this.notes, note];
    this.keep();
    return note;
  }

  /** A photo of the unit's screen, with the hour and the hole; an error in plain words when it cannot be kept. */
  async photograph(file: File, spot: Spot, gear: { unit: string; lure: string }) {
    let letters: string;
    try {
      letters = await pictures.made(file);
    } catch {
      throw new Error(`${file.name} is no photo that can be shown.`);
    }
    const note = this.add("photo", spot, gear, {});
    this.photos = { ...this.photos, [note.id]: letters };
    try {
      await pictures.keep(note.id, letters);
    } catch {
      throw new Error(
        "This phone keeps no photos for a page of its own. Save the notes before you close it.",
      );
    }
  }

  /** Taken back, or put right: the note itself stays, under its own name. A photo that is taken back is let go. */
  change(id: string, patch: Partial<Note>) {
    if (patch.back && id in this.photos) {
      this.photos = Object.fromEntries(Object.entries(this.photos).filter(([one]) => one !== id));
      void pictures.letGo(id).catch(() => undefined);
    }
    this.notes = this.notes.map((one) => (one.id === id ? { ...one, ...patch } : one));
    this.keep();
  }

  drilled(spot: Spot) {
    this.spots = [...this.spots, spot];
    this.keep();
  }

  /** The file that leaves the phone: all of its notes, whichever sheet they were made on, or some of them. */
  file(notes = this.notes): File {
    const document = {
      hollow_glint_pocket_notes: 1,
      phone: this.phone,
      saved_at: isoNow(),
      sheets: this.sheets,
      notes,
      photos: Object.fromEntries(
        notes.filter((one) => one.id in this.photos).map((one) => [one.id, this.photos[one.id]]),
      ),
    };
    const name = `notes-${isoNow().slice(0, 10)}-${this.phone.slice(0, 4)}.json`;
    return new File([JSON.stringify(document, null, 1)], name, { type: "application/json" });
  }
}
