/** Completes the content security policy of pages, whose hashes Astro writes. */
import type { MiddlewareHandler } from 'astro';

const HEADER = 'content-security-policy';
/** Computed sizes and positions are in style attributes. */
const MORE = `style-src-attr 'unsafe-inline'`;

/** Completes the policy of HTML answers. */
export const onRequest: MiddlewareHandler = async (_, next) => {
  const answer = await next();
  const policy = answer.headers.get(HEADER);
  if (policy) answer.headers.set(HEADER, `${policy.replace(/;?\s*$/, '')}; ${MORE}`);
  return answer;
};
