import { right } from './right.ts';

export const manage = right({
  id: 'manage',
  doing: 'say who may do what',
  means: 'This page, the name of the project and its rules.',
  roles: ['lead'],
  needs: ['see'],
});
