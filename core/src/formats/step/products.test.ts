import { strToU8 } from 'fflate';
import { scanStep, type StepFile } from '../shared/step21/scan.ts';
import { lengthUnitOf, occurrencesIn } from './products.ts';

/** A bracket with two bolts, one of them lifted by 5 and turned by a quarter; `swapped` writes the parent first. */
function file(swapped = false): StepFile {
  const pair = swapped ? '#12,#22' : '#22,#12';
  const way = swapped ? '#31,#30' : '#30,#31';
  const records = `
#1=PRODUCT('B','bracket','',());
#2=PRODUCT_DEFINITION_FORMATION('','',#1);
#10=PRODUCT_DEFINITION('','',#2,$);
#11=PRODUCT_DEFINITION_SHAPE('','',#10);
#12=SHAPE_REPRESENTATION('',(#30),$);
#13=SHAPE_DEFINITION_REPRESENTATION(#11,#12);
#3=PRODUCT('b','bolt','',());
#4=PRODUCT_DEFINITION_FORMATION('','',#3);
#20=PRODUCT_DEFINITION('','',#4,$);
#21=PRODUCT_DEFINITION_SHAPE('','',#20);
#22=SHAPE_REPRESENTATION('',(#30),$);
#23=SHAPE_DEFINITION_REPRESENTATION(#21,#22);
#5=PRODUCT('steel','steel','',());
#6=PRODUCT_DEFINITION_FORMATION('','',#5);
#7=PRODUCT_DEFINITION('','',#6,$);
#30=AXIS2_PLACEMENT_3D('',#40,$,$);
#31=AXIS2_PLACEMENT_3D('',#41,#42,#43);
#40=CARTESIAN_POINT('',(0.,0.,0.));
#41=CARTESIAN_POINT('',(0.,0.,5.));
#42=DIRECTION('',(0.,0.,1.));
#43=DIRECTION('',(0.,1.,0.));
#50=NEXT_ASSEMBLY_USAGE_OCCURRENCE('1','','',#10,#20,$);
#51=NEXT_ASSEMBLY_USAGE_OCCURRENCE('2','','',#10,#20,$);
#52=PRODUCT_DEFINITION_SHAPE('','',#51);
#53=ITEM_DEFINED_TRANSFORMATION('','',${way});
#54=(REPRESENTATION_RELATIONSHIP('','',${pair}) REPRESENTATION_RELATIONSHIP_WITH_TRANSFORMATION(#53) SHAPE_REPRESENTATION_RELATIONSHIP());
#55=CONTEXT_DEPENDENT_SHAPE_REPRESENTATION(#54,#52);
#60=(LENGTH_UNIT() NAMED_UNIT(*) SI_UNIT(.MILLI.,.METRE.));
#61=MEASURE_WITH_UNIT(LENGTH_MEASURE(25.4),#60);
#62=(CONVERSION_BASED_UNIT('INCH',#61) LENGTH_UNIT() NAMED_UNIT($));
#63=(GEOMETRIC_REPRESENTATION_CONTEXT(3) GLOBAL_UNIT_ASSIGNED_CONTEXT((#62)) REPRESENTATION_CONTEXT('',''));`;
  return scanStep(strToU8(`ISO-10303-21;HEADER;ENDSEC;DATA;${records}\nENDSEC;END-ISO-10303-21;`));
}

test.each([false, true])('products stand where their uses say, whichever side is written first (%s)', (swapped) => {
  const found = occurrencesIn(file(swapped), 100)!;
  expect(found.map(({ name, parents }) => [name, parents])).toEqual([
    ['bolt', ['bracket']],
    ['bolt', ['bracket']],
  ]);
  expect(found[0]!.placing).toEqual([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]);
  expect(found[1]!.placing.map((value) => Math.round(value * 1e9) / 1e9 + 0)).toEqual([
    0, 1, 0, 0, -1, 0, 0, 0, 0, 0, 1, 0, 0, 0, 5, 1,
  ]);
});

test('a unit that is converted is the one that counts, not the one that it is converted to', () => {
  expect(lengthUnitOf(file())).toEqual({ name: 'in', millimetres: 25.4 });
});

test('more products than are looked into are none at all', () => {
  expect(occurrencesIn(file(), 0)).toBeUndefined();
});
