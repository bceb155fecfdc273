// A photo that came with a phone's notes, on its way to the page that reads it: held here, and let go with the page.
export interface FromPhone {
  file: File;
  /** Where it was taken. */
  spot: string;
  unit: string;
  lure: string;
}

let held: FromPhone | null = $state.raw(null);

/** Hold a photo of a note: its picture as base64, its hour as it stands in UTC. */
export function hold(letters: string, at: string, { spot, unit, lure }: Omit<FromPhone, "file">) {
  const bytes = Uint8Array.from(atob(letters), (one) => one.charCodeAt(0));
  const name = `${spot} ${at.slice(0, 16).replace(/\D/g, "-")}.jpg`;
  held = {
    file: new File([bytes], name, { type: "image/jpeg", lastModified: Date.parse(at) }),
    spot,
    unit,
    lure,
  };
}

export const fromPhone = () => held;

export function letGo() {
  held = null;
}
