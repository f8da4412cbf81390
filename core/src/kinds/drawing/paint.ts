/** Words of SVG for what parts are painted with, as readers have them: "linearGradient 1f2e3d4c". */
const painted = /^(linearGradient|radialGradient|pattern|clipPath|mask|marker|filter) ([0-9a-f]{8})$/;

export interface Paint {
  readonly kind: string;
  readonly print: string;
}

export function paintOf(value: string): Paint | undefined {
  const [, kind, print] = painted.exec(value) ?? [];
  return kind && print ? { kind, print } : undefined;
}

export const isPaint = (value: string): boolean => paintOf(value) !== undefined;
