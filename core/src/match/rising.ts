/** The longest run of numbers that rise, others left out: what stayed in order (patience; O(n log n)). */
export function longestRising(list: readonly number[]): number[] {
  const ends: number[] = [];
  const before = new Int32Array(list.length).fill(-1);
  list.forEach((value, i) => {
    let low = 0;
    let high = ends.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((list[ends[middle] as number] as number) > value) high = middle;
      else low = middle + 1;
    }
    before[i] = low > 0 ? (ends[low - 1] as number) : -1;
    ends[low] = i;
  });
  const out: number[] = [];
  for (let i = ends.at(-1) ?? -1; i >= 0; i = before[i] as number) out.push(list[i] as number);
  return out.reverse();
}
