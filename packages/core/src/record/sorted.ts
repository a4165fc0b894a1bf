/**
 * Where something belongs in a sorted list: the number of members that come before it. What comes last, as new ids do,
 * is found at once; the rest by halving.
 */
export function placeOf(length: number, comesBefore: (index: number) => boolean): number {
  if (length === 0 || comesBefore(length - 1)) return length;
  let [low, high] = [0, length - 1];
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (comesBefore(middle)) low = middle + 1;
    else high = middle;
  }
  return low;
}
