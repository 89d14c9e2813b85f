import { missingParts } from './missing-parts';

const setUp = (parts: Record<string, unknown>): void => void Object.assign(globalThis, parts);
const decoder = (supported: boolean) => ({ isConfigSupported: () => Promise.resolve({ supported }) });

beforeEach(() =>
  setUp({
    VideoDecoder: decoder(true),
    AudioDecoder: {},
    OffscreenCanvas: {},
    crossOriginIsolated: true,
    isSecureContext: true,
  }),
);

it('nothing is missing where all is there', async () => {
  expect(await missingParts()).toEqual([]);
});

it('says what is missing, each by itself', async () => {
  setUp({ VideoDecoder: decoder(false) });
  expect(await missingParts()).toEqual(['H.264 video']);
  setUp({ VideoDecoder: decoder(true), crossOriginIsolated: false });
  expect(await missingParts()).toEqual([expect.stringMatching(/^An isolated page/)]);
  setUp({ crossOriginIsolated: true });
  Reflect.deleteProperty(globalThis, 'AudioDecoder');
  Reflect.deleteProperty(globalThis, 'OffscreenCanvas');
  expect(await missingParts()).toEqual([expect.stringMatching(/WebCodecs/), expect.stringMatching(/OffscreenCanvas/)]);
});

it('of a page that is not secure, only that is said', async () => {
  setUp({ isSecureContext: false, crossOriginIsolated: false });
  Reflect.deleteProperty(globalThis, 'VideoDecoder');
  expect(await missingParts()).toEqual([expect.stringMatching(/^An isolated page/)]);
});

it('a browser that fails to answer has none', async () => {
  setUp({ VideoDecoder: { isConfigSupported: () => Promise.reject(new TypeError()) } });
  expect(await missingParts()).toEqual(['H.264 video']);
});
