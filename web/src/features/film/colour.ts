/** The colour of a custom property as red, green and blue, 0 to 255; the plum of the interface where it is none. */
export function colourOf(name: string): readonly [number, number, number] {
  const text = getComputedStyle(document.documentElement).getPropertyValue(name).trim();
  const digits = /^#([0-9a-f]{6})$/i.exec(text)?.[1] ?? '6f2d62';
  const value = Number.parseInt(digits, 16);
  return [value >> 16, (value >> 8) & 255, value & 255];
}
