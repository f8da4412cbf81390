/** What shows tables, in browsers, needs of the core. */
export { cellName, columnName, columnOf } from '../../text/address.ts';
export { headsOf } from './heads.ts';
export { mergedLines, type Line } from './merged.ts';
export { unpackTable } from './packed.ts';
export { pairSheetLists, type SheetPair, type TablePairing } from './pairing.ts';
export { extraAt, valueAt, type CellValue, type Sheet } from '../../model/workbook.ts';
