export { measureEdge, type EdgeResponse, type LumaWindow, type RefusedEdge } from './edge';
