import base from './playwright.config';
export default { ...base, testDir: '/work/main/e2e', outputDir: '/tmp/pwout', timeout: 100_000, expect: { timeout: 15_000 }, reporter: [['list']], use: { ...base.use, actionTimeout: 15_000, trace: 'off' } };
