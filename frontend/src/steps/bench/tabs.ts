// The groups of controls on the Bench.
export const TABS = ["Tune", "Picture", "Water", "Practice"] as const;
export type Tab = (typeof TABS)[number];
