import { right } from './right.ts';

export const changeState = right({
  id: 'change state',
  doing: 'change the state of versions',
  roles: ['checker', 'lead'],
  needs: ['see'],
});
