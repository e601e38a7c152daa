/** Pages are static; the Content-Security-Policy for them is set in src/proxy.ts, for assets here. */
export default {
  reactStrictMode: true,
  poweredByHeader: false,
  typescript: { ignoreBuildErrors: true },
  redirects: async () => [{ source: '/', destination: '/scan', permanent: false }],
  headers: async () => [
    {
      source: '/_next/static/:path*',
      headers: [
        {
          key: 'Content-Security-Policy',
          value: "default-src 'none'; script-src 'self'; connect-src 'self'",
        },
      ],
    },
  ],
};
