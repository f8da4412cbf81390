/** Saves as a program makes them, for tests. */
import type { Page } from '@playwright/test';
import { expect } from './support.ts';

export const projectOf = async (page: Page, fileId: string): Promise<string> =>
  ((await (await page.request.get(`/api/v1/files/${fileId}`)).json()) as { projectId: string }).projectId;

export const countAtOnce = async (page: Page, projectId: string): Promise<void> => {
  const answer = await page.request.patch(`/api/v1/projects/${projectId}`, { data: { savesCount: true } });
  expect(answer.ok()).toBe(true);
};

export interface Listed {
  readonly id: string;
  readonly number: number;
  readonly kind: string;
  readonly title: string | null;
}

export const versionsOf = async (page: Page, fileId: string): Promise<Listed[]> =>
  ((await (await page.request.get(`/api/v1/files/${fileId}/versions`)).json()) as Listed[]).sort(
    (a, b) => a.number - b.number,
  );

export const save = async (page: Page, fileId: string, content: string, base: string): Promise<string> => {
  const answer = await page.request.post(`/api/v1/files/${fileId}/saves`, {
    multipart: { base, file: { name: 'pier.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(content) } },
  });
  expect(answer.status(), await answer.text()).toBe(201);
  return ((await answer.json()) as { version: { id: string } }).version.id;
};
