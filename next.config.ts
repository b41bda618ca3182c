import type { NextConfig } from 'next';

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: true,
  // Types are checked by ./check, over the whole project at once; the build need not wait for it
  // again.
  typescript: { ignoreBuildErrors: true },
  serverExternalPackages: ['pg', 'pg-boss', 'better-auth', 'pino', 'piscina', 'yauzl', 'yazl'],
  // The unwrapping library asks for node's own loader module, which a browser has not.
  turbopack: {
    root: import.meta.dirname,
    resolveAlias: { module: { browser: './src/empty-module.ts' } },
  },
  headers: () =>
    Promise.resolve([
      {
        source: '/:path*',
        headers: [
          { key: 'Cross-Origin-Opener-Policy', value: 'same-origin' },
          { key: 'Cross-Origin-Embedder-Policy', value: 'require-corp' },
          { key: 'Cross-Origin-Resource-Policy', value: 'same-origin' },
          { key: 'X-Content-Type-Options', value: 'nosniff' },
          { key: 'X-Frame-Options', value: 'DENY' },
          { key: 'Referrer-Policy', value: 'same-origin' },
          {
            key: 'Permissions-Policy',
            value: 'camera=(), microphone=(), geolocation=(), payment=(), usb=()',
          },
        ],
      },
    ]),
};
export default config;
