import { right } from './right.ts';

export const takeOver = right({
  id: 'take over',
  doing: 'take over what others have checked out',
  means: 'Taking a check-out from its holder.',
  roles: ['lead'],
  needs: ['see'],
});
