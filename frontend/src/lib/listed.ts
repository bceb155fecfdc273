// Which of many holes stand in a list: after twenty seasons they are thousands, and the last ones are meant.
import type { Hole } from "./api/types";

const MOST = 60;

/** All holes while they are few; of many the newest, and the one chosen, in their order. */
export const listed = (holes: Hole[], chosen: number | null): Hole[] => {
  if (holes.length <= MOST) return holes;
  const newest = holes.slice(-MOST);
  const mine = holes.find((one) => one.id === chosen);
  return mine && !newest.includes(mine) ? [mine, ...newest] : newest;
};

/** The holes whose name or water has all the words that are looked for, newest first. */
export const found = (holes: Hole[], text: string): Hole[] => {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const has = (one: Hole) => {
    const name = `${one.name} ${one.water}`.toLowerCase();
    return words.every((word) => name.includes(word));
  };
  return holes.filter(has).reverse().slice(0, MOST);
};
