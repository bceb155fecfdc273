// Two versions of a form, by what differs.
export interface Difference {
  name: string;
  mine: string;
  theirs: string;
}

/** The lines that differ; `names` gives them in the form's order. */
export const differences = (
  names: readonly (readonly [key: string, name: string])[],
  mine: Record<string, string>,
  theirs: Record<string, string>,
): Difference[] =>
  names
    .map(([key, name]) => ({ name, mine: mine[key] ?? "", theirs: theirs[key] ?? "" }))
    .filter((one) => one.mine !== one.theirs);
