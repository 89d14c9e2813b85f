import 'react-native-css-interop/dist/runtime/components';

// jsdom has neither; NativeWind asks for the one, the curve for the other.
Object.defineProperty(globalThis, 'matchMedia', {
  value: () => ({
    matches: false,
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
    addListener: () => undefined,
  }),
});
globalThis.ResizeObserver ??= class {
  observe(): void {}
  unobserve(): void {}
  disconnect(): void {}
} as unknown as typeof ResizeObserver;
// The store's tests keep what a browser keeps (documents, steps of history): values of JSON.
globalThis.structuredClone ??= <T>(value: T): T =>
  value === undefined ? value : (JSON.parse(JSON.stringify(value)) as T);
