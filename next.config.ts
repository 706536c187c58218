import type { NextConfig } from 'next';

const config: NextConfig = {
  serverExternalPackages: ['sequelize', 'mysql2', 'umzug', 'sharp', 'yazl', 'yauzl', 'exifr'],
  poweredByHeader: false,
  devIndicators: false,
};

export default config;
