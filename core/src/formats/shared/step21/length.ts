/** Units of length in files in the clear text of ISO 10303-21. */
import type { StepFile } from './scan.ts';
import { Enumerated, Ref, Typed, type Value } from './values.ts';

/** A unit of length that a file is written in. */
export interface LengthUnit {
  readonly name: string;
  readonly millimetres: number;
}

const METRE = 1000;
const prefixes: Readonly<Record<string, readonly [sign: string, factor: number]>> = {
  KILO: ['k', 1000],
  DECI: ['d', 0.1],
  CENTI: ['c', 0.01],
  MILLI: ['m', 0.001],
  MICRO: ['µ', 0.000_001],
};
const converted: Readonly<Record<string, LengthUnit>> = {
  INCH: { name: 'in', millimetres: 25.4 },
  FOOT: { name: 'ft', millimetres: 304.8 },
  YARD: { name: 'yd', millimetres: 914.4 },
};

/** Of a list of units the first one of length; undefined where there is none. */
export function lengthIn(file: StepFile, units: Value | undefined): LengthUnit | undefined {
  for (const unit of Array.isArray(units) ? (units as readonly Value[]) : []) {
    const found = unit instanceof Ref ? lengthUnit(file, unit.id) : undefined;
    if (found) return found;
  }
  return undefined;
}

/** Building models say in one record what is a record of several types in models of products. */
function lengthUnit(file: StepFile, id: number): LengthUnit | undefined {
  const calls = file.calls(id);
  const said = (type: string): readonly Value[] | undefined => calls.find((call) => call.type === type)?.values;
  const metres = said('SI_UNIT') ?? said('IFCSIUNIT')?.slice(2);
  const isLength = calls.some(({ type, values }) => type === 'LENGTH_UNIT' || isLengthUnit(values[1]));
  if (!isLength) return undefined;
  if (metres) {
    const [sign, factor] = (metres[0] instanceof Enumerated ? prefixes[metres[0].name] : undefined) ?? ['', 1];
    return metres[1] instanceof Enumerated && metres[1].name === 'METRE'
      ? { name: `${sign}m`, millimetres: METRE * factor }
      : undefined;
  }
  const [named, factor] = said('CONVERSION_BASED_UNIT') ?? said('IFCCONVERSIONBASEDUNIT')?.slice(2) ?? [];
  const word = named instanceof Typed ? named.value : named;
  const name = typeof word === 'string' ? word.toUpperCase() : '';
  const known = Object.entries(converted).find(([unit]) => name.includes(unit))?.[1];
  const millimetres = factor instanceof Ref ? factorOf(file, factor.id) : undefined;
  return known ?? (millimetres === undefined ? undefined : { name: name.toLowerCase(), millimetres });
}

const isLengthUnit = (value: Value | undefined): boolean => value instanceof Enumerated && value.name === 'LENGTHUNIT';

/** Of a measure with its unit, which is one of length again. */
function factorOf(file: StepFile, id: number): number | undefined {
  const [value, unit] = file.values(id);
  const number = value instanceof Typed ? value.value : value;
  const inner = unit instanceof Ref && unit.id !== id ? lengthUnit(file, unit.id) : undefined;
  return typeof number === 'number' && inner ? number * inner.millimetres : undefined;
}
