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
  "img-src 'self' data:",
  "connect-src 'self'",
  "object-src 'none'",
  "base-uri 'none'",
  "form-action 'self'",
  "frame-ancestors 'none'",
].join('; ');

/** Sets the Content-Security-Policy on every page. */
export function proxy(_request: NextRequest): NextResponse {
  const response = NextResponse.next();
  response.headers.set('Content-Security-Policy', POLICY);
  response.headers.set('Referrer-Policy', 'no-referrer');
  response.headers.set('X-Content-Type-Options', 'nosniff');
  return response;
}

export const config = { matcher: ['/((?!_next/).*)'] };
