export { proposePatches, type ProposedPatch, type Proposals } from './propose';
