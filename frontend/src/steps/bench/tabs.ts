// The groups of controls on the Bench.
export const TABS = [
  { key: "Tune", name: "Tune" },
  { key: "Picture", name: "Picture" },
  { key: "Water", name: "Water" },
  { key: "Practice", name: "Practice" },
] as const;
export type Tab = (typeof TABS)[number]["key"];
