/** The application's stages, left to right, with the key that opens each. */
export interface Stage {
  key: string;
  name: string;
  /** Path below a session; `null` for stages that are not here yet. */
  path: string | null;
  /** Where it can be entered with no session. */
  alone?: string;
}

export const STAGES: readonly Stage[] = [
  { key: '1', name: 'Kits & rigs', path: null, alone: '/kits' },
  { key: '2', name: 'Plan', path: 'plan', alone: '/plan' },
  { key: '3', name: 'Shoot', path: 'shoot' },
  { key: '4', name: 'Footage', path: 'footage' },
  { key: '5', name: 'Regions', path: 'regions' },
  { key: '6', name: 'Measure', path: 'measure' },
  { key: '7', name: 'Compare', path: 'compare' },
  { key: '8', name: 'Verdict', path: 'verdict' },
  { key: '9', name: 'Pick', path: 'pick', alone: '/pick' },
  { key: '0', name: 'Report', path: 'report', alone: '/reports' },
];
