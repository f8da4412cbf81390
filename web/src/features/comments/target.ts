import type { NewComment } from '../../contract/comments.ts';

/** What a new comment will stand at. */
export type Target =
  | { readonly kind: 'version' }
  | { readonly kind: 'place'; readonly at: NonNullable<NewComment['at']>; readonly says: string };
