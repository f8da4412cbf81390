/**
 * What classes of building elements are called, and to which discipline they belong (ISO 16739-1). What is not listed
 * takes the discipline of its system, or else is “other”. A new class is one line.
 */
export const disciplines = [
  'architecture',
  'structure',
  'electrical',
  'piping and drainage',
  'ventilation',
  'furniture',
  'site',
  'other',
] as const;

export type Discipline = (typeof disciplines)[number];

/** Names of classes without their first letters `Ifc`, by discipline. Subtypes begin with the name of their class. */
const byDiscipline: Readonly<Record<Discipline, readonly string[]>> = {
  architecture: [
    'Wall',
    'WallStandardCase',
    'WallElementedCase',
    'CurtainWall',
    'Door',
    'DoorStandardCase',
    'Window',
    'WindowStandardCase',
    'Roof',
    'Covering',
    'Railing',
    'Ramp',
    'RampFlight',
    'Stair',
    'StairFlight',
    'ShadingDevice',
    'Chimney',
    'Space',
    'TransportElement',
    'BuiltElement',
    'BuildingElement',
  ],
  structure: [
    'Beam',
    'BeamStandardCase',
    'Column',
    'ColumnStandardCase',
    'Slab',
    'SlabStandardCase',
    'SlabElementedCase',
    'Footing',
    'Pile',
    'DeepFoundation',
    'CaissonFoundation',
    'Member',
    'MemberStandardCase',
    'Plate',
    'PlateStandardCase',
    'ReinforcingBar',
    'ReinforcingMesh',
    'Tendon',
    'TendonAnchor',
    'TendonConduit',
    'ElementAssembly',
    'Fastener',
    'MechanicalFastener',
    'Bearing',
    'DiscreteAccessory',
    'VibrationIsolator',
    'VibrationDamper',
  ],
  electrical: [
    'LightFixture',
    'Lamp',
    'Outlet',
    'SwitchingDevice',
    'ElectricAppliance',
    'ElectricDistributionBoard',
    'ElectricDistributionPoint',
    'ElectricFlowStorageDevice',
    'ElectricGenerator',
    'ElectricMotor',
    'ElectricTimeControl',
    'MotorConnection',
    'CableCarrierFitting',
    'CableCarrierSegment',
    'CableFitting',
    'CableSegment',
    'JunctionBox',
    'ProtectiveDevice',
    'Transformer',
    'SolarDevice',
    'CommunicationsAppliance',
    'AudioVisualAppliance',
    'Alarm',
    'Sensor',
    'Controller',
    'Actuator',
    'UnitaryControlElement',
    'FlowInstrument',
    'Signal',
  ],
  'piping and drainage': [
    'PipeFitting',
    'PipeSegment',
    'Pump',
    'Valve',
    'Tank',
    'SanitaryTerminal',
    'WasteTerminal',
    'StackTerminal',
    'FireSuppressionTerminal',
    'Interceptor',
    'Boiler',
    'SpaceHeater',
    'HeatExchanger',
    'FlowMeter',
  ],
  ventilation: [
    'AirTerminal',
    'AirTerminalBox',
    'AirToAirHeatRecovery',
    'DuctFitting',
    'DuctSegment',
    'DuctSilencer',
    'Damper',
    'Fan',
    'Filter',
    'Coil',
    'Chiller',
    'Compressor',
    'Condenser',
    'CooledBeam',
    'CoolingTower',
    'Evaporator',
    'Humidifier',
    'UnitaryEquipment',
  ],
  furniture: ['Furniture', 'FurnishingElement', 'SystemFurnitureElement'],
  site: [
    'Site',
    'CivilElement',
    'GeographicElement',
    'Course',
    'Earthworks',
    'EarthworksCut',
    'EarthworksFill',
    'Kerb',
    'Pavement',
    'Rail',
    'TrackElement',
    'MooringDevice',
    'NavigationElement',
    'MarineFacility',
  ],
  other: [
    'BuildingElementProxy',
    'DistributionElement',
    'DistributionFlowElement',
    'DistributionChamberElement',
    'DistributionControlElement',
    'EnergyConversionDevice',
    'FlowController',
    'FlowFitting',
    'FlowMovingDevice',
    'FlowSegment',
    'FlowStorageDevice',
    'FlowTerminal',
    'FlowTreatmentDevice',
    'EquipmentElement',
    'VirtualElement',
    'Annotation',
    'Grid',
    'Proxy',
    'ElectricalElement',
    'Project',
    'Building',
    'BuildingStorey',
  ],
};

interface ClassOfElement {
  /** In words: “pipe segment”. */
  readonly said: string;
  readonly discipline: Discipline;
}

/** Words that cannot be counted, said so that they can. */
const counted: Readonly<Record<string, string>> = { Furniture: 'furniture item', Earthworks: 'earthwork' };

const classes = new Map<string, ClassOfElement>(
  disciplines.flatMap((discipline) =>
    byDiscipline[discipline].map((name) => [
      `IFC${name.toUpperCase()}`,
      { said: counted[name] ?? name.replaceAll(/(?<=[a-z])(?=[A-Z])/g, ' ').toLowerCase(), discipline },
    ]),
  ),
);

/** Kinds of distribution systems (IfcDistributionSystemEnum), by words in them, for elements whose class says little. */
const systems: readonly (readonly [RegExp, Discipline])[] = [
  [/\b(?:VENTILATION|AIR|EXHAUST|DUCT|HVAC)/i, 'ventilation'],
  [/\b(?:ELECTRIC|LIGHT|POWER|DATA|COMMUNICATION|SIGNAL|SECURITY|CABLE|EARTHING)/i, 'electrical'],
  [
    /\b(?:\w*WATER|DRAIN|SEWAGE|SANITARY|PLUMB|PIP|GAS|HEATING|SPRINKLER|FIREPROTECTION|RAIN|STORM|WASTE)/i,
    'piping and drainage',
  ],
];

/** Written as the standard case of a class, it is one of that class. */
const STANDARD = /(?:STANDARD|ELEMENTED)CASE$/;

/** `type` is the class of its type, `system` what is said of the system that it belongs to. */
export function classOf(written: string, type = '', system = ''): ClassOfElement {
  const plain = written.replace(STANDARD, '');
  const own = classes.get(plain);
  if (own && own.discipline !== 'other') return own;
  const ofType = classes.get(type.replace(/TYPE$/, ''));
  const bySystem = systems.find(([words]) => words.test(system))?.[1];
  return {
    said: own?.said ?? plain.replace(/^IFC/, '').toLowerCase(),
    discipline: ofType && ofType.discipline !== 'other' ? ofType.discipline : (bySystem ?? 'other'),
  };
}
