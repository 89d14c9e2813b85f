import type { StoredProject } from '@hastig/contract';
import fc from 'fast-check';
import { HANGS, Report } from './report';

interface Tried {
  method: string;
  path: string;
  headers: Record<string, string>;
  body: string | undefined;
}

const odd = fc.constantFrom(
  ...['', '\0', '\ud83d', '../../etc/passwd', '%2e%2e%2f', '__proto__', 'constructor', '-1', '1e999', 'null'],
  ...[
    '🎬'.repeat(120),
    '"',
    '<b>',
    '00000000-0000-4000-8000-000000000000',
    'a'.repeat(64),
    '0'.repeat(32),
    '9'.repeat(30),
  ],
);
const anyJson = fc.oneof(
  fc.jsonValue({ maxDepth: 3 }),
  odd,
  fc.constantFrom(0, -1, 1e300, 2 ** 53, [], {}, [[[[]]]], Array(2000).fill(0)),
);

/** Requests near to right ones: of a project, with pieces of them changed. */
function anyRequest({ id, document }: StoredProject): fc.Arbitrary<Tried> {
  const pointers = [
    '/name',
    '/clips/0/name',
    '/clips/0/timing/spans/0/frames',
    '/sequence/rate/num',
    '/sources/0/facts',
    '',
  ];
  const operation = fc.record(
    {
      op: fc.constantFrom('add', 'remove', 'replace', 'move', 'test'),
      path: fc.oneof(
        fc.constantFrom(...pointers, '/clips/-', '/__proto__/x', '/groups/0'),
        odd.map((text) => `/${text}`),
      ),
      value: anyJson,
    },
    { requiredKeys: ['op', 'path'] },
  );
  const patch = fc.record(
    {
      revision: fc.oneof(fc.nat(5), anyJson),
      patch: fc.oneof(fc.array(operation, { maxLength: 5 }), anyJson),
      batch: odd,
    },
    { requiredKeys: ['revision', 'patch'] },
  );
  const changed = fc
    .tuple(fc.constantFrom(...Object.keys(document)), anyJson)
    .map(([key, value]) => ({ document: { ...document, [key]: value } }));
  const body = fc.oneof(
    patch.map((value) => JSON.stringify(value)),
    changed.map((value) => JSON.stringify(value)),
    anyJson.map((value) => JSON.stringify({ name: value })),
    fc.string({ maxLength: 40 }),
    fc.constantFrom('[', '{"name":', `${'['.repeat(20_000)}`, 'null', '"'),
    fc.constant(undefined),
  );
  // Half a pair has no place in an address.
  const place = fc.oneof(fc.constant(id), odd.filter((text) => !/^\p{Surrogate}/u.test(text)).map(encodeURIComponent));
  const path = fc.oneof(
    place.map((one) => `/api/projects/${one}`),
    place.map((one) => `/api/projects/${one}/archive`),
    fc
      .tuple(place, fc.oneof(fc.nat(9).map(String), fc.constantFrom('-1', '1e9', 'x')))
      .map(([one, n]) => `/api/projects/${one}/revisions/${n}`),
    place.map((one) => `/api/media/${one}`),
    place.map((one) => `/api/derived/${one}/proxy-1/0`),
    place.map((one) => `/api/uploads/${one}`),
    place.map((one) => `/api/uploads/${one}/media`),
    fc.constantFrom('/api/projects', '/api/uploads', '/api/health', '/api/nothing', '/_expo/x', '/%ff', '/api/derived'),
  );
  const headers = fc.dictionary(
    fc.constantFrom('Tus-Resumable', 'Upload-Length', 'Upload-Offset', 'Range', 'Upload-Metadata'),
    fc.constantFrom('1.0.0', '0', '-5', '99999999999999', 'bytes=5-1', 'name x', 'bytes=0-0,5-9'),
    { maxKeys: 3 },
  );
  return fc.record({
    method: fc.constantFrom('GET', 'POST', 'PATCH', 'PUT', 'HEAD', 'OPTIONS', 'DELETE'),
    ...{ path, body, headers },
  });
}

/**
 * Sends requests that are nearly right. None may end the server, be answered with 500, hang, show a path of the machine, or
 * touch the project unless it was right.
 */
export async function fuzzRequests(address: string, count: number, seed: number): Promise<Report> {
  const report = new Report(`requests (seed ${seed})`);
  const made = await fetch(`${address}/api/demo`, { method: 'POST' });
  const project = (await made.json()) as StoredProject;
  for (const { method, path, headers, body } of fc.sample(anyRequest(project), { numRuns: count, seed })) {
    // The project itself is needed to the end.
    if (method === 'DELETE' && path === `/api/projects/${project.id}`) continue;
    const started = performance.now();
    const bodied = body !== undefined && method !== 'GET' && method !== 'HEAD';
    const what = `${method} ${path.slice(0, 80)} ${(bodied ? body : '').slice(0, 80)}`;
    try {
      const answer = await fetch(address + path, {
        ...{ method, signal: AbortSignal.timeout(4 * HANGS) },
        headers: { ...headers, 'Content-Type': 'application/json' },
        ...(bodied && { body }),
      });
      const text = await answer.text();
      const took = performance.now() - started;
      report.tried(String(answer.status), took);
      if (answer.status >= 500) report.fault(`${answer.status} for ${what}`);
      if (took > HANGS) report.fault(`${took.toFixed(0)} ms for ${what}`);
      if (answer.status >= 400 && /node_modules|ENOENT|\/tmp\/|\/home\/|\.ts:\d/.test(text))
        report.fault(`a path of the machine in the answer to ${what}`);
    } catch (error) {
      report.tried('no answer');
      report.fault(`no answer to ${what}: ${(error as Error).message}`);
    }
  }
  const after = await fetch(`${address}/api/projects/${project.id}`);
  if (!after.ok) report.fault(`the project is answered with ${after.status}`);
  return report;
}
