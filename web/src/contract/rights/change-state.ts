import { right } from './right.ts';

export const changeState = right({
  id: 'change state',
  doing: 'change the state of versions',
  means: 'Saying where a version stands: in progress, shared, published, archived. Nothing uses it yet.',
  roles: ['checker', 'lead'],
  needs: ['see'],
});
