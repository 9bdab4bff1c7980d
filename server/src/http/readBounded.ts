/** An answer from outside is longer than may be read. */
export class TooLarge extends Error {
  constructor(most: number) {
    super(`The answer is longer than ${most} bytes.`);
  }
}

/** Reads the text of an answer while it comes, and hangs up as soon as it is longer than `most` bytes, whatever it says of its length. */
export async function readBounded(
  response: { body: AsyncIterable<Uint8Array> | null },
  most: number,
): Promise<string> {
  if (!response.body) return '';
  const decoder = new TextDecoder();
  let text = '';
  let size = 0;
  // Leaving the loop early cancels the stream and closes the connection.
  for await (const chunk of response.body) {
    size += chunk.byteLength;
    if (size > most) throw new TooLarge(most);
    text += decoder.decode(chunk, { stream: true });
  }
  return text + decoder.decode();
}
