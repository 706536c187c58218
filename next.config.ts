import type { NextConfig } from 'next';

const config: NextConfig = {
  serverExternalPackages: ['sequelize', 'mysql2', 'umzug', 'sharp', 'yazl', 'yauzl', 'exifr'],
  poweredByHeader: false,
  devIndicators: false,
  // Types are checked once, by `./glade test`; a newcomer's start need not wait for it.
  typescript: { ignoreBuildErrors: true },
};

export default config;
