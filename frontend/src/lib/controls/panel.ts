/** What marks the part of a page that a tab of `Tabs` shows. */
export const panelOf = (id: string, current: string) => ({
  role: "tabpanel" as const,
  id: `${id}-panel`,
  "aria-labelledby": `${id}-${current}`,
});
