export { findGhosts, measureVeil, type BlackBesideNeutral, type Ghost } from './flare';
