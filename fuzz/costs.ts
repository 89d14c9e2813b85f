import { readFile } from 'node:fs/promises';
import { deflateRawSync } from 'node:zlib';
import type { ProjectDocument, StoredProject } from '@hastig/contract';
import { duplicateClips, groupClips } from '@hastig/core';
import { Report } from './report';
import { send, upload } from './upload';

const fixtures = new URL('../e2e/fixtures/', import.meta.url).pathname;

/** An input that is small and was made to cost much: its bytes, and what it may cost. */
interface Costly {
  name: string;
  bytes: number;
  /** Seconds that it may take, and that anybody else may wait meanwhile. */
  seconds: number;
  othersWait: number;
  /** Sends it; gives the status of the answer. */
  try(address: string): Promise<number>;
  status: number;
}

/** A ZIP archive of one file (APPNOTE 6.3), packed. */
function zipOf(name: string, content: Buffer): Buffer {
  const data = deflateRawSync(content, { level: 9 });
  const head = Buffer.alloc(30);
  head.writeUInt32LE(0x04034b50, 0);
  head.writeUInt16LE(20, 4);
  head.writeUInt16LE(8, 8);
  // Its sum is not looked at before it is read.
  head.writeUInt32LE(0, 14);
  head.writeUInt32LE(data.length, 18);
  head.writeUInt32LE(content.length, 22);
  head.writeUInt16LE(name.length, 26);
  const central = Buffer.alloc(46);
  central.writeUInt32LE(0x02014b50, 0);
  central.writeUInt16LE(20, 4);
  central.writeUInt16LE(20, 6);
  head.copy(central, 10, 8, 30);
  const end = Buffer.alloc(22);
  end.writeUInt32LE(0x06054b50, 0);
  end.writeUInt16LE(1, 8);
  end.writeUInt16LE(1, 10);
  end.writeUInt32LE(central.length + name.length, 12);
  end.writeUInt32LE(head.length + name.length + data.length, 16);
  return Buffer.concat([head, Buffer.from(name), data, central, Buffer.from(name), end]);
}

const post = async (address: string, path: string, body: string, method = 'POST'): Promise<number> =>
  (await fetch(address + path, { method, body, headers: { 'Content-Type': 'application/json' } })).status;

const asProject = async (address: string, content: Buffer): Promise<number> =>
  (await fetch(`${address}${await send(address, content)}/project`, { method: 'POST' })).status;

/** Groups in groups, each shown twice in the next. */
function nested(document: ProjectDocument, levels: number): ProjectDocument {
  let project: ProjectDocument = { ...document, groups: [] };
  let inner = project.clips[0]!.id;
  for (let level = 1; level <= levels; level++) {
    project = duplicateClips(project, [inner], [`again-${level}`]);
    project = groupClips(project, [inner, `again-${level}`], { groupId: `g${level}`, clipId: `n${level}`, name: 'g' });
    inner = `n${level}`;
  }
  return project;
}

async function costlyInputs(demo: StoredProject): Promise<Costly[]> {
  const busy = await Promise.all(
    ['probe-busy-1.webm', 'probe-busy-2.mp4', 'probe-busy-3.webm'].map(async (name): Promise<Costly> => {
      const content = await readFile(fixtures + name);
      const send = async (address: string): Promise<number> => (await upload(address, content)).answer.status;
      return { name, bytes: content.length, seconds: 4, othersWait: 1, try: send, status: 422 };
    }),
  );
  const large = zipOf(
    'project.json',
    Buffer.from(`{"kind":"hastig-project","document":{"x":[${'0,'.repeat(30_000_000)}0]}}`),
  );
  const four = (address: string): Promise<number> =>
    Promise.all([1, 2, 3, 4].map(() => asProject(address, large))).then((all) => all[0]!);
  const deep = (levels: number): string => '['.repeat(levels) + ']'.repeat(levels);
  const patch = `{"revision":1,"patch":[{"op":"add","path":"/x","value":${deep(5000)}}]}`;
  const groups = JSON.stringify({ document: nested(demo.document, 16) });
  const damaged = await readFile(`${fixtures}damaged-inside.zip`);
  const at = (name: string, bytes: number, status: number, run: Costly['try'], seconds = 5): Costly => ({
    ...{ name, bytes, seconds, othersWait: 1, status },
    try: run,
  });
  return [
    ...busy,
    at('four archives of 60 MB of JSON at once', 4 * large.length, 422, four, 12),
    at('JSON 200,000 deep', 400_000, 422, (address) => post(address, '/api/projects', `{"document":${deep(200_000)}}`)),
    at('a change 5,000 deep', patch.length, 422, (address) =>
      post(address, `/api/projects/${demo.id}`, patch, 'PATCH'),
    ),
    at('groups nested 16 deep', groups.length, 422, (address) => post(address, '/api/projects', groups)),
    at('an archive with a damaged compressed part', damaged.length, 422, (address) => asProject(address, damaged)),
  ];
}

/** Sends small inputs that were made to cost much: each within its bounds, and others go on meanwhile. */
export async function fuzzCosts(address: string): Promise<Report> {
  const report = new Report('small inputs that cost much');
  const made = await fetch(`${address}/api/demo`, { method: 'POST' });
  for (const one of await costlyInputs((await made.json()) as StoredProject)) {
    const started = performance.now();
    let waited = 0;
    const asked = setInterval(() => {
      const began = performance.now();
      void fetch(`${address}/api/health`).then(
        () => (waited = Math.max(waited, performance.now() - began)),
        () => (waited = Infinity),
      );
    }, 100);
    const status = await one.try(address).catch(() => 0);
    clearInterval(asked);
    const took = performance.now() - started;
    report.tried(String(status), took);
    report.note(
      `${one.name}: ${one.bytes} bytes, ${(took / 1000).toFixed(2)} s, others waited ${waited.toFixed(0)} ms`,
    );
    if (status !== one.status) report.fault(`${status} for ${one.name}, not ${one.status}`);
    if (took > one.seconds * 1000) report.fault(`${one.name} took ${took.toFixed(0)} ms`);
    if (waited > one.othersWait * 1000) report.fault(`others waited ${waited.toFixed(0)} ms for ${one.name}`);
  }
  return report;
}
