import { right } from './right.ts';

export const seeOldVersions = right({
  id: 'see old versions',
  doing: 'see older versions',
  means: 'Every version, comparing them, the history and the deleted files.',
  roles: ['reader', 'checker', 'editor', 'lead'],
  needs: ['see'],
});
