import base from './playwright.config';
const config = { ...base, testDir: './e2e', use: { ...base.use } };
export default config;
