import { right } from './right.ts';

export const seeOldVersions = right({
  id: 'see old versions',
  doing: 'see older versions',
  roles: ['reader', 'checker', 'editor', 'lead'],
  needs: ['see'],
});
