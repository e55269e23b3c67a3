/** The pages of the stand-ins, as plain HTML; each service has a look of its own. */
export const escape = (s: string): string => s.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c] ?? c);

/** A field of a form or query that may come once. */
export const one = (v: unknown): string => (typeof v === 'string' ? v : '');
/** A field that may come several times. */
export const many = (v: unknown): string[] => (Array.isArray(v) ? v.filter((x) => typeof x === 'string') : typeof v === 'string' ? [v] : []);

/** Makes a page of a title and its HTML. */
export type Page = (title: string, body: string) => string;

/**
 * The frame of all pages of a service.
 * @param what it is, behind its name at the head
 * @param css what makes its look its own
 */
export const pagesOf =
  (name: string, what: string, css: string): Page =>
  (title, body) =>
    `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escape(title)} · ${name}</title>
<style>
body{font:16px/1.5 Georgia,serif;max-width:46rem;margin:2rem auto;padding:0 1rem;color:#1c2733}
header{font:600 14px system-ui,sans-serif;padding-bottom:.5rem;margin-bottom:1.5rem}
section{background:#fff;padding:1rem 1.25rem;margin:0 0 1rem}
fieldset{border:0;padding:0;margin:0}legend,.prompt{font-weight:600;padding:0;margin:.25rem 0}label{display:flex;gap:.5rem;padding:.25rem 0;align-items:baseline}label p{margin:0}
input,select,textarea,button{font:inherit;padding:.3rem .5rem}textarea{width:100%;box-sizing:border-box}button{color:#fff;border:0;padding:.6rem 1.2rem}
table{border-collapse:collapse}td,th{padding:.3rem .6rem;text-align:left}img{max-width:100%}.error{color:#8a1c1c}small{color:#4a5d6b}${css}
</style></head><body><header>${name} · ${what}</header><main><h1>${escape(title)}</h1>${body}</main></body></html>`;
