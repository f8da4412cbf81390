import { useCallback } from 'react';
import useSWR from 'swr';
import type { Comment, NewComment } from '../../contract/comments.ts';
import { call } from '../api/client.ts';

export interface CommentsHere {
  readonly comments: readonly Comment[];
  readonly refresh: () => Promise<unknown>;
  readonly add: (comment: NewComment) => Promise<Comment>;
  readonly reply: (id: string, body: string) => Promise<void>;
  readonly resolve: (id: string, resolved: boolean) => Promise<void>;
}

const none: readonly Comment[] = [];

/** Comments of a file, with their places in one version. */
export function useComments(fileId: string, versionId: string): CommentsHere {
  const { data, mutate } = useSWR<Comment[]>(`/files/${fileId}/comments?version=${versionId}`, (p: string) => call(p), {
    revalidateOnFocus: false,
  });
  const refresh = useCallback((): Promise<unknown> => mutate(), [mutate]);
  return {
    comments: data ?? none,
    refresh,
    add: async (comment) => {
      const made = await call<Comment>(`/files/${fileId}/comments`, 'POST', comment);
      await mutate();
      return made;
    },
    reply: async (id, body) => {
      await call(`/comments/${id}/replies`, 'POST', { body });
      await mutate();
    },
    resolve: async (id, resolved) => {
      await call(`/comments/${id}`, 'PATCH', { resolved });
      await mutate();
    },
  };
}
