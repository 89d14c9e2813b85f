import { openMedia } from './open';

jest.mock('mediabunny', () => ({ UrlSource: class {}, BlobSource: class {} }));
jest.mock('@hastig/probe', () => ({
  probeMedia: () => Promise.reject(new Error('The file is damaged.')),
  RefusedMedia: class extends Error {},
}));

const answering = (answer: { ok: boolean; status: number } | Error): void => {
  globalThis.fetch = (async () => {
    if (answer instanceof Error) throw answer;
    return answer;
  }) as unknown as typeof fetch;
};

it.each([
  [{ ok: false, status: 404 }, 'missing on the server'],
  [{ ok: false, status: 503 }, 'isn’t answering'],
  [new TypeError('failed to fetch'), 'isn’t answering'],
  [{ ok: true, status: 206 }, 'damaged'],
])('a file that cannot be opened is damaged only if it is there: %#', async (answer, words) => {
  answering(answer);
  await expect(openMedia({ url: 'http://127.0.0.1/x', bytes: 10 })).rejects.toThrow(words);
});
