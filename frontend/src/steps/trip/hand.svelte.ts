// The place on the map that was touched last, for whoever wants to put something there.
class ByHand {
  place: { east: number; north: number } | null = $state.raw(null);
}

export const byHand = new ByHand();
