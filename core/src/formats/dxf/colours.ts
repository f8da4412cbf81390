/** The 255 numbered colours of DXF drawings (published DXF reference, group 62), as #rrggbb. */
const plain = [
  '#000000',
  '#ff0000',
  '#ffff00',
  '#00ff00',
  '#00ffff',
  '#0000ff',
  '#ff00ff',
  '#000000',
  '#414141',
  '#808080',
];
const greys = ['#333333', '#5b5b5b', '#848484', '#adadad', '#d6d6d6', '#ffffff'];
const levels = [255, 204, 153, 127, 76];

const hex = (n: number): string => Math.round(n).toString(16).padStart(2, '0');

/** Number 7 is black on paper. Numbers out of range are taken for 7. */
export function numberedColour(n: number): string {
  if (n >= 1 && n <= 9) return plain[n] as string;
  if (n >= 250 && n <= 255) return greys[n - 250] as string;
  if (!(n >= 10 && n < 250)) return plain[7] as string;
  // Twenty-four hues in steps of 15°, five levels of brightness, each full and half as saturated.
  const hue = Math.floor((n - 10) / 10) * 15;
  const level = levels[(n % 10) >> 1] as number;
  const least = n % 2 ? level / 2 : 0;
  const channel = (turn: number): number => {
    const h = (((hue + turn) % 360) + 360) % 360;
    const share = Math.min(1, Math.max(0, Math.abs(h - 180) / 60 - 1));
    return least + (level - least) * share;
  };
  return `#${hex(channel(0))}${hex(channel(-120))}${hex(channel(120))}`;
}

/** A 24-bit colour as group 420 has it. */
export const trueColour = (n: number): string => `#${(n & 0xffffff).toString(16).padStart(6, '0')}`;
