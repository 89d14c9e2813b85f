/** What came of bringing in a file: where it lies, and the last answer. */
interface Uploaded {
  path: string;
  answer: Response;
}

/** Uploads a file (tus 1.0.0) and leaves it as it is; gives its address. */
export async function send(address: string, content: Buffer): Promise<string> {
  const { path, answer } = await sent(address, content);
  if (!answer.ok) throw new Error(`the upload was answered with ${answer.status}`);
  return path;
}

async function sent(address: string, content: Buffer): Promise<Uploaded> {
  const tus = { 'Tus-Resumable': '1.0.0' };
  const made = await fetch(`${address}/api/uploads`, {
    method: 'POST',
    headers: { ...tus, 'Upload-Length': String(content.length) },
  });
  const location = made.headers.get('Location');
  if (!location) return { path: '', answer: made };
  const { pathname: path } = new URL(location, address);
  const answer = await fetch(address + path, {
    method: 'PATCH',
    headers: { ...tus, 'Upload-Offset': '0', 'Content-Type': 'application/offset+octet-stream' },
    body: new Uint8Array(content),
  });
  return { path, answer };
}

/** Uploads a file (tus 1.0.0) and makes it media; the first answer that is an error ends it. */
export async function upload(address: string, content: Buffer): Promise<Uploaded> {
  const { path, answer } = await sent(address, content);
  if (!answer.ok || !path) return { path, answer };
  return {
    path,
    answer: await fetch(`${address}${path}/media`, { method: 'POST', signal: AbortSignal.timeout(30_000) }),
  };
}
