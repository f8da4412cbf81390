import { right } from './right.ts';

export const bringForward = right({
  id: 'bring forward',
  doing: 'bring versions forward',
  roles: ['editor', 'lead'],
  needs: ['see old versions'],
});
