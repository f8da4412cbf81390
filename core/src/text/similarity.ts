/** Sørensen–Dice coefficient on letter pairs: 1 for equal texts, 0 for texts with nothing in common. */
export function similarity(a: string, b: string): number {
  if (a === b) return 1;
  if (a.length < 2 || b.length < 2) return 0;
  const pairs = new Map<number, number>();
  const at = (s: string, i: number): number => s.charCodeAt(i) * 65_536 + s.charCodeAt(i + 1);
  for (let i = 0; i + 1 < a.length; i++) pairs.set(at(a, i), (pairs.get(at(a, i)) ?? 0) + 1);
  let shared = 0;
  for (let i = 0; i + 1 < b.length; i++) {
    const left = pairs.get(at(b, i)) ?? 0;
    if (left > 0) {
      shared++;
      pairs.set(at(b, i), left - 1);
    }
  }
  return (2 * shared) / (a.length + b.length - 2);
}
