import { right } from './right.ts';

export const manage = right({
  id: 'manage',
  doing: 'say who may do what',
  roles: ['lead'],
  needs: ['see'],
});
