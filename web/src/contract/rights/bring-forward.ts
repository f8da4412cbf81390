import { right } from './right.ts';

export const bringForward = right({
  id: 'bring forward',
  doing: 'bring versions forward',
  means: 'Making an older version the newest one.',
  roles: ['editor', 'lead'],
  needs: ['see old versions'],
});
