import { createHash, randomBytes } from 'node:crypto';
import type { Machine, NewMachineKey, ProjectDocument, StoredMedia, TakenPart } from '@hastig/contract';
import { appendClip, constantSpan, makeRate, newProject, SEQUENCE, wholeClip } from '@hastig/core';
import request from 'supertest';

/** Frames of the film. */
export const FRAMES = 500;

/** A film of 500 frames: three stretches of 192 at most. */
export function film(stored: StoredMedia): ProjectDocument {
  const source = { id: 'plates', name: 'Plates', ...stored };
  const document = { ...newProject('Marbles', makeRate(24)), sources: [source] };
  const clip = wholeClip(document, 'c', source);
  return appendClip(document, SEQUENCE, {
    ...clip,
    shown: { from: 0, frames: FRAMES },
    timing: { ...clip.timing, spans: [constantSpan(0.25, FRAMES)] },
  });
}

/** A machine as the server sees it. */
export class Helper {
  /** What it says of itself. */
  facts = { cores: 2, codecs: ['H.264', 'VP9'], can: ['render', 'convert'], browser: 'Chromium 1' };

  private constructor(
    private readonly address: string,
    readonly machine: Machine,
    private readonly key: string,
  ) {}

  static async letIn(address: string, name = 'Desk', scopes?: string[]): Promise<Helper> {
    const { body } = await request(address).post('/api/machines').send({ name, ...(scopes && { scopes }) }).expect(201); // prettier-ignore
    const { machine, key } = body as NewMachineKey;
    return new Helper(address, machine, key);
  }

  post(path: string, body: object) {
    return request(this.address).post(`/api/worker${path}`).set('Authorization', `Bearer ${this.key}`).send(body);
  }

  get(path: string) {
    return request(this.address).get(`/api/worker${path}`).set('Authorization', `Bearer ${this.key}`);
  }

  put(path: string, content: Buffer) {
    return request(this.address).put(`/api/worker${path}`).set('Authorization', `Bearer ${this.key}`).send(content);
  }

  async next(): Promise<TakenPart> {
    const { body } = await this.post('/next', this.facts).expect(200);
    return body as TakenPart;
  }

  /** There is nothing for it. */
  async idle(): Promise<void> {
    await this.post('/next?wait=0', this.facts).expect(204);
  }

  send({ id, lease }: TakenPart, content: Buffer, position = 0) {
    return this.put(`/parts/${id}/file?lease=${lease}&position=${position}`, content);
  }

  done({ id, lease, task }: TakenPart, content: Buffer) {
    const sha256 = createHash('sha256').update(content).digest('hex');
    const frames = task.do === 'pictures' ? task.to - task.from : 0;
    return this.post(`/parts/${id}/done`, { lease, bytes: content.length, sha256, frames, took: 1 });
  }

  /** Does a part as if it were done. */
  async make(part: TakenPart): Promise<Buffer> {
    const content = randomBytes(1000);
    await this.send(part, content).expect(204);
    await this.done(part, content).expect(204);
    return content;
  }
}
