import { useEffect, useState } from 'react';
import type { Spot } from '../measure.ts';

const noSpots: readonly Spot[] = [];

/** Milliseconds that blinking shows each side. */
export const paces = [
  ['slow', 1400],
  ['even', 700],
  ['quick', 250],
] as const;

export interface Tools {
  readonly listing: boolean;
  readonly toggleListing: () => void;
  readonly magnifying: boolean;
  readonly toggleMagnifying: () => void;
  readonly pointer: readonly [number, number] | undefined;
  readonly point: (at: readonly [number, number] | undefined) => void;
  readonly measuring: boolean;
  readonly toggleMeasuring: () => void;
  readonly spots: readonly Spot[];
  readonly addSpot: (spot: Spot) => void;
  readonly clearSpots: () => void;
  readonly curtain: number;
  readonly setCurtain: (at: number) => void;
  readonly blinkA: boolean;
  readonly paused: boolean;
  readonly togglePaused: () => void;
  readonly pace: number;
  readonly setPace: (milliseconds: number) => void;
}

/** The tools of the canvas, and what they are set to. */
export function useTools(blinking: boolean): Tools {
  const [listing, setListing] = useState(false);
  const [magnifying, setMagnifying] = useState(false);
  const [pointer, point] = useState<readonly [number, number]>();
  const [measuring, setMeasuring] = useState(false);
  const [spots, setSpots] = useState(noSpots);
  const [curtain, setCurtain] = useState(0.5);
  const [blinkA, setBlinkA] = useState(false);
  const [paused, setPaused] = useState(false);
  const [pace, setPace] = useState<number>(700);
  useEffect(() => {
    if (!blinking || paused) return undefined;
    const timer = setInterval(() => setBlinkA((on) => !on), pace);
    return () => clearInterval(timer);
  }, [blinking, paused, pace]);
  return {
    listing,
    toggleListing: () => setListing((on) => !on),
    magnifying,
    toggleMagnifying: () => setMagnifying((on) => !on),
    pointer,
    point,
    measuring,
    toggleMeasuring: () => {
      setSpots(noSpots);
      setMeasuring((on) => !on);
    },
    spots,
    addSpot: (spot) => setSpots((all) => [...all, spot]),
    clearSpots: () => setSpots(noSpots),
    curtain,
    setCurtain,
    blinkA,
    paused,
    togglePaused: () => setPaused((on) => !on),
    pace,
    setPace,
  };
}
