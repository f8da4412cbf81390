import { classOf } from './classes.ts';

test.each([
  ['IFCWALL', 'wall', 'architecture'],
  ['IFCWALLSTANDARDCASE', 'wall', 'architecture'],
  ['IFCSLAB', 'slab', 'structure'],
  ['IFCLIGHTFIXTURE', 'light fixture', 'electrical'],
  ['IFCPIPESEGMENT', 'pipe segment', 'piping and drainage'],
  ['IFCFURNITURE', 'furniture item', 'furniture'],
  ['IFCBUILDINGELEMENTPROXY', 'building element proxy', 'other'],
  ['IFCOFNEXTYEAR', 'ofnextyear', 'other'],
])('%s is a %s, of %s', (written, said, discipline) => {
  expect(classOf(written)).toEqual({ said, discipline });
});

test('a class that says little takes the discipline of its type, or else of its system', () => {
  expect(classOf('IFCFLOWSEGMENT', 'IFCDUCTSEGMENTTYPE').discipline).toBe('ventilation');
  expect(classOf('IFCFLOWSEGMENT', 'IFCPIPESEGMENTTYPE', 'Supply air').discipline).toBe('piping and drainage');
  expect(classOf('IFCFLOWFITTING', '', 'Supply air').discipline).toBe('ventilation');
  expect(classOf('IFCFLOWFITTING', '', 'Cold DOMESTICCOLDWATER').discipline).toBe('piping and drainage');
  expect(classOf('IFCFLOWTERMINAL', '', 'Stair lighting').discipline).toBe('electrical');
  // Letters within other words say nothing.
  expect(classOf('IFCFLOWTERMINAL', '', 'Repairs and stairs').discipline).toBe('other');
});
