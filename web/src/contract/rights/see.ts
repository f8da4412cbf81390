import { right } from './right.ts';

export const see = right({
  id: 'see',
  doing: 'see this',
  roles: ['newest only', 'reader', 'checker', 'editor', 'lead'],
  needs: [],
});
