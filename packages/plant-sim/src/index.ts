export { ControlPort } from './control-port.ts';
export { SimController } from './controller.ts';
export { Plant, type PlantDescription, type Spare, type LineDescription } from './plant.ts';
export type { LoadPlan, ProcessPlan } from './load.ts';
export { loadModels } from './shipped-models.ts';
export type { Mischief } from './mischief.ts';
export { SimUnit, type Hand, type UnitDescription } from './unit.ts';
