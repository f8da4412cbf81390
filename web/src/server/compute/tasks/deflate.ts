import { zlibEngine, type DeflateSettings } from '@ovrel/core';
import type { Task } from '../task.ts';

export const engines = [zlibEngine] as const;

export const deflate: Task<{ readonly bytes: Uint8Array; readonly settings: DeflateSettings }, Uint8Array> = ({
  bytes,
  settings,
}) => {
  const out = engines.find((engine) => engine.id === settings.engine)?.deflate(bytes, settings);
  if (!out) throw new Error(`There is no deflate engine “${settings.engine}” here.`);
  return out;
};
