/**
 * Ways of laying a layer over those beneath (OpenRaster 0.0.6, composite-op; W3C Compositing and Blending), in words
 * and back.
 */

const words: Readonly<Record<string, string>> = {
  'svg:src-over': 'normal',
  'svg:multiply': 'multiply',
  'svg:screen': 'screen',
  'svg:overlay': 'overlay',
  'svg:darken': 'darken',
  'svg:lighten': 'lighten',
  'svg:color-dodge': 'colour dodge',
  'svg:color-burn': 'colour burn',
  'svg:hard-light': 'hard light',
  'svg:soft-light': 'soft light',
  'svg:difference': 'difference',
  'svg:color': 'colour',
  'svg:luminosity': 'luminosity',
  'svg:hue': 'hue',
  'svg:saturation': 'saturation',
  'svg:plus': 'plus',
  'svg:dst-in': 'cut by what it covers',
  'svg:dst-out': 'cut out what it covers',
  'svg:src-atop': 'within what is beneath',
  'svg:dst-atop': 'beneath, within it',
  'svg:exclusion': 'exclusion',
};

/** Operators that are not known keep their own name. */
export const blendOfOperator = (operator: string | undefined): string =>
  operator === undefined || operator === '' ? 'normal' : (words[operator] ?? operator.replace(/^\w+:/, ''));

const back = new Map(Object.entries(words).map(([operator, word]) => [word, operator]));

export const operatorOfBlend = (blend: string): string => back.get(blend) ?? 'svg:src-over';
