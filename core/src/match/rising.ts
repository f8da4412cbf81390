/** The longest run of numbers that rise, others left out: what stayed in order. */
export function longestRising(list: readonly number[]): number[] {
  const ends: number[] = [];
  const before: number[] = [];
  list.forEach((v, i) => {
    let k = ends.length;
    while (k > 0 && (list[ends[k - 1] as number] as number) > v) k--;
    before[i] = k > 0 ? (ends[k - 1] as number) : -1;
    ends[k] = i;
  });
  const out: number[] = [];
  for (let i = ends.at(-1) ?? -1; i >= 0; i = before[i] as number) out.unshift(list[i] as number);
  return out;
}
