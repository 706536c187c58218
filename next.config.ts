import type { NextConfig } from 'next';

const config: NextConfig = {
  serverExternalPackages: ['sequelize', 'mysql2', 'umzug', 'sharp', 'yazl', 'yauzl', 'exifr', 'prom-client', 'pino'],
  poweredByHeader: false,
  devIndicators: false,
  // Titles come with the page to every browser, not only to those that can't wait: what streams after the first paint is held back for 300 ms.
  htmlLimitedBots: /.*/,
  // Names this build where something made by an earlier one is kept.
  env: { GLADE_BUILT: new Date().toISOString() },
  // Types are checked once, by `./glade test`; a newcomer's start need not wait for it.
  typescript: { ignoreBuildErrors: true },
};

export default config;
