export { cueAt, parseSubRip, type Cue } from './subrip';
