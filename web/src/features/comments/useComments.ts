import { useCallback } from 'react';
import type { Comment, NewComment } from '../../contract/comments.ts';
import { call } from '../api/client.ts';
import { api } from '../../contract/operations/index.ts';
import { useAnswer } from '../api/useAnswer.ts';

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
  const { data, mutate } = useAnswer(
    api.comments.list,
    { fileId, query: { version: versionId } },
    { revalidateOnFocus: false },
  );
  const refresh = useCallback((): Promise<unknown> => mutate(), [mutate]);
  return {
    comments: data ?? none,
    refresh,
    add: async (comment) => {
      const made = await call(api.comments.add, { fileId, body: comment });
      await mutate();
      return made;
    },
    reply: async (id, body) => {
      await call(api.comments.reply, { commentId: id, body: { body } });
      await mutate();
    },
    resolve: async (id, resolved) => {
      await call(api.comments.resolve, { commentId: id, body: { resolved } });
      await mutate();
    },
  };
}
