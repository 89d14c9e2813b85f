declare module 'tar-stream/headers.js' {
  import type { Headers } from 'tar-stream';

  const headers: {
    /** Null where a name cannot be written. */
    encode(header: Headers): Uint8Array | null;
    /** Null for an empty block; throws where it is damaged. */
    decode(block: Uint8Array): Headers | null;
  };
  export default headers;
}
