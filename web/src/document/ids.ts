/** Names for what is added to a list. */

/** One that nothing there has, and that another tablet adding to the same list at the same time does not choose. */
export function freeId(taken: readonly { id: string }[], letter = "r"): string {
  const apart = crypto.getRandomValues(new Uint32Array(1))[0]! % 36 ** 3;
  const one = `${letter}${taken.length + 1}-${apart.toString(36).padStart(3, "0")}`;
  return taken.some(({ id }) => id === one) ? freeId(taken, letter) : one;
}
