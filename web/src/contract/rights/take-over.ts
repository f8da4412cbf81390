import { right } from './right.ts';

export const takeOver = right({
  id: 'take over',
  doing: 'take over what others have checked out',
  roles: ['lead'],
  needs: ['see'],
});
