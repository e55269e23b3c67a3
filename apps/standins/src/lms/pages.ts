/** The LMS's pages, as plain HTML. */
export const escape = (s: string): string => s.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c] ?? c);

export const page = (title: string, body: string): string => `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escape(title)} · Harbour LMS</title>
<style>
body{font:16px/1.5 Georgia,serif;max-width:46rem;margin:2rem auto;padding:0 1rem;color:#1c2733;background:#f3f6f8}
header{font:600 14px system-ui,sans-serif;color:#33556e;border-bottom:1px solid #c5d2db;padding-bottom:.5rem;margin-bottom:1.5rem}
section{background:#fff;border:1px solid #c5d2db;border-radius:4px;padding:1rem 1.25rem;margin:0 0 1rem}
fieldset{border:0;padding:0;margin:0}legend,.prompt{font-weight:600;padding:0;margin:.25rem 0}label{display:flex;gap:.5rem;padding:.25rem 0;align-items:baseline}label p{margin:0}
input,select,textarea,button{font:inherit;padding:.3rem .5rem}textarea{width:100%;box-sizing:border-box}button{background:#24516f;color:#fff;border:0;border-radius:4px;padding:.6rem 1.2rem}
table{border-collapse:collapse}td,th{padding:.3rem .6rem;text-align:left;border-bottom:1px solid #dfe7ec}.error{color:#8a1c1c}small{color:#4a5d6b}
</style></head><body><header>Harbour LMS · a simulated learning management system</header><main><h1>${escape(title)}</h1>${body}</main></body></html>`;
