'use client';

/** What others do, as it happens: one stream of events for the page. */
import { useEffect, useRef } from 'react';
import type { LiveEvent } from '../../contract/desk.ts';

/** Calls `onEvent` for what happens at a file or in a project; without an event where something may have been missed. */
export function useLive(where: { file?: string; project?: string }, onEvent: (event: LiveEvent | undefined) => void): void {
  const latest = useRef(onEvent);
  useEffect(() => {
    latest.current = onEvent;
  });
  const query = where.file ? `file=${where.file}` : where.project ? `project=${where.project}` : '';
  useEffect(() => {
    let opened = false;
    const source = new EventSource(`/api/v1/events?${query}`);
    source.onmessage = (e: MessageEvent<string>) => latest.current(JSON.parse(e.data) as LiveEvent);
    source.addEventListener('again', () => latest.current(undefined));
    // The browser connects again by itself; what happened meanwhile is asked for.
    source.onopen = () => {
      if (opened) latest.current(undefined);
      opened = true;
    };
    return () => source.close();
  }, [query]);
}
