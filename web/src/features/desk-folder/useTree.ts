'use client';

/** What the files of a desk that are about to be checked in need, read from what lies here, and what needs them. */
import { useEffect, useState } from 'react';
import { resolve, type Whereabouts } from '@ovrel/core/references';
import { call } from '../api/client.ts';
import { readFile } from './folder.ts';
import { referencesHere } from './orders.ts';
import { baseName } from './paths.ts';
import type { Row } from './useDesk.ts';
import { api } from '../../contract/operations/index.ts';

export interface Branch {
  readonly path: string;
  readonly needs: readonly { readonly target: string; readonly found: Whereabouts; readonly row: Row | undefined }[];
  readonly neededBy: readonly { readonly path: string; readonly holder: string | null }[];
}

/** Larger files are not looked into, and more than these neither: bytes, and files. */
const LARGEST = 60 * 1024 * 1024;
const MOST = 50;

export function useTree(
  folder: FileSystemDirectoryHandle,
  rows: readonly Row[],
  all: readonly Row[],
): readonly Branch[] {
  const [branches, setBranches] = useState<readonly Branch[]>([]);
  useEffect(() => {
    let stale = false;
    const work = async (): Promise<void> => {
      const found: Branch[] = [];
      for (const row of rows.slice(0, MOST)) {
        const here = await readFile(folder, row.path);
        const named = here && here.size <= LARGEST ? await referencesHere(baseName(row.path), here) : [];
        const known =
          row.file && (await call(api.references.list, { versionId: row.file.newest.id }).catch(() => undefined));
        if (stale) return;
        const needs = resolve(
          named,
          row.path,
          all.filter((r) => r.path !== row.path),
        ).map(({ reference, found: how, file }) => ({ target: reference.target, found: how, row: file }));
        found.push({
          path: row.path,
          needs,
          neededBy: known?.neededBy.map((u) => ({ path: u.file.path, holder: u.file.holder })) ?? [],
        });
        setBranches([...found]);
      }
    };
    void work().catch(() => undefined);
    return () => {
      stale = true;
    };
  }, [folder, rows, all]);
  return branches;
}
