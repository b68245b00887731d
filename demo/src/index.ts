export * from './goods.ts';
export * from './past/writePast.ts';
export * from './random.ts';
export * from './range.ts';
export * from './seed.ts';
export * from './seedEmpty.ts';
export * from './supplierFile.ts';
