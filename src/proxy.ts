import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { type NextRequest, NextResponse } from 'next/server';

/** Hashes of the inline scripts of the built pages, written after the build by scripts/csp-hashes.mjs. */
function inlineScriptHashes(): string[] {
  try {
    return JSON.parse(
      readFileSync(join(process.cwd(), '.next', 'inline-script-hashes.json'), 'utf8'),
    ) as string[];
  } catch {
    return [];
  }
}

const development = process.env.NODE_ENV === 'development';
const scripts = development
  ? "'unsafe-inline' 'unsafe-eval'"
  : inlineScriptHashes()
      .map((h) => `'${h}'`)
      .join(' ');
const POLICY = [
  "default-src 'none'",
  `script-src 'self' ${scripts}`,
  "worker-src 'self'",
  "style-src 'self' 'unsafe-inline'",
  "font-src 'self'",
  "img-src 'self' data: blob:",
  "connect-src 'self'",
  "object-src 'none'",
  "base-uri 'none'",
  "form-action 'self'",
  "frame-ancestors 'none'",
].join('; ');

const LOOPBACK = ['localhost', '127.0.0.1', '[::1]'];
const EVERYWHERE = ['0.0.0.0', '::', '[::]'];

/** Whether the server answers to a Host header: to this machine's own names, and to those that it was started for (HOST). */
function answersTo(host: string | null): boolean {
  const own = process.env.HOST;
  if (own !== undefined && EVERYWHERE.includes(own)) return true;
  const name = (host ?? '').replace(/:\d+$/, '').toLowerCase();
  return LOOPBACK.includes(name) || (own !== undefined && name === own.toLowerCase());
}

/** Answers to its own names only, so that no page of elsewhere can ask in another's; sets the Content-Security-Policy on every page. */
export function proxy(request: NextRequest): NextResponse {
  const host = request.headers.get('host');
  if (!answersTo(host))
    return refused(
      421,
      `This server answers to localhost only, not to “${host ?? ''}”. To open it to others, start it with HOST=… npm run demo.`,
    );
  // A path that is no text cannot be asked for.
  if (!isReadable(request.nextUrl.pathname))
    return refused(400, 'This address cannot be read: a % in it stands for nothing.');
  // Nor may a page of elsewhere set this machine to work.
  if (request.nextUrl.pathname.startsWith('/api/') && request.headers.get('sec-fetch-site') === 'cross-site')
    return refused(403, 'Pages of other servers are not answered.');
  return secured(NextResponse.next());
}

/** With the headers that every answer carries. */
function secured(response: NextResponse): NextResponse {
  response.headers.set('Content-Security-Policy', POLICY);
  response.headers.set('Referrer-Policy', 'no-referrer');
  response.headers.set('X-Content-Type-Options', 'nosniff');
  return response;
}

const refused = (status: number, why: string): NextResponse =>
  secured(new NextResponse(`${why}\n`, { status, headers: { 'Content-Type': 'text/plain; charset=utf-8' } }));

function isReadable(path: string): boolean {
  try {
    decodeURIComponent(path);
    return true;
  } catch {
    return false;
  }
}

export const config = { matcher: ['/:path*'] };
