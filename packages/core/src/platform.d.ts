/** What every place that the core runs in has: browser, worker, Node.js. Declared here so that nothing else slips in. */
declare class TextEncoder {
  encode(text: string): Uint8Array;
}
declare class TextDecoder {
  constructor(label?: string, options?: { fatal?: boolean; ignoreBOM?: boolean });
  decode(bytes: Uint8Array): string;
}
declare function atob(base64: string): string;
declare function btoa(binary: string): string;
declare const crypto: { getRandomValues<T extends Uint8Array>(array: T): T };
