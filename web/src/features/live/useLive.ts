'use client';

/** What others do, as it happens: one stream of events for the page. */
import { useEffect, useRef } from 'react';
import type { LiveEvent } from '../../contract/desk.ts';
import { api } from '../../contract/operations/index.ts';
import { linkTo } from '../../contract/operation.ts';

/**
 * Calls `onEvent` for what happens at a file or in a project; without an event where something may have been missed.
 */
export function useLive(
  where: { file?: string; project?: string },
  onEvent: (event: LiveEvent | undefined) => void,
): void {
  const latest = useRef(onEvent);
  useEffect(() => {
    latest.current = onEvent;
  });
  const address = linkTo(api.events.follow, { query: where.file ? { file: where.file } : { project: where.project } });
  useEffect(() => {
    let source: EventSource | undefined;
    let missed = false;
    const open = (): void => {
      source = new EventSource(address);
      source.onmessage = (e: MessageEvent<string>) => latest.current(JSON.parse(e.data) as LiveEvent);
      source.addEventListener('again', () => latest.current(undefined));
      // The browser connects again by itself; what happened meanwhile is asked for.
      source.onopen = () => {
        if (missed) latest.current(undefined);
        missed = true;
      };
    };
    // A page that nobody sees gives its connection back: browsers keep only a few for each server.
    const follow = (): void => {
      if (document.hidden) {
        source?.close();
        source = undefined;
      } else if (!source) open();
    };
    follow();
    document.addEventListener('visibilitychange', follow);
    return () => {
      document.removeEventListener('visibilitychange', follow);
      source?.close();
    };
  }, [address]);
}
