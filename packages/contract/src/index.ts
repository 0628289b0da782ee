export * from './api';
export * from './endpoint';
export * from './fileShapes';
export * from './fleetShapes';
export * from './openApi';
export * from './problem';
export * from './recordShapes';
export * from './shapes';
