export { cueAt, joinedCues, parseSubRip, type Cue } from './subrip';
