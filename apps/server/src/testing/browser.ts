/** A browser without a window: keeps cookies, follows redirects, and sends forms that send themselves. */
export class Browser {
  /** By name: all that is reached is one host. */
  readonly cookies = new Map<string, string>();

  /** Goes to an address until there is a page that stays. The fragment of the last redirect is kept in `url`. */
  async go(address: string, form?: Record<string, string>): Promise<{ url: string; status: number; text: string }> {
    let url = address;
    let body = form && new URLSearchParams(form).toString();
    for (let step = 0; step < 20; step++) {
      const res = await fetch(url, {
        method: body === undefined ? 'GET' : 'POST',
        redirect: 'manual',
        headers: {
          cookie: [...this.cookies].map(([k, v]) => `${k}=${v}`).join('; '),
          ...(body !== undefined && { 'content-type': 'application/x-www-form-urlencoded' }),
        },
        ...(body !== undefined && { body }),
      });
      for (const said of res.headers.getSetCookie()) {
        const [, name = '', value = ''] = /^([^=]+)=([^;]*)/.exec(said) ?? [];
        if (value) this.cookies.set(name, value);
        else this.cookies.delete(name);
      }
      const text = await res.text();
      const to = res.headers.get('location');
      if (to) {
        url = new URL(to, url).href;
        body = undefined;
        continue;
      }
      const sent = /\.submit\(\)/.test(text) ? formIn(text) : null;
      if (!sent) return { url, status: res.status, text };
      url = new URL(sent.action, url).href;
      body = new URLSearchParams(sent.fields).toString();
    }
    throw new Error('too many steps');
  }
}

const unescaped = (s: string): string =>
  s
    .replace(/&quot;/g, '"')
    .replace(/&#39;/g, "'")
    .replace(/&lt;/g, '<')
    .replace(/&gt;/g, '>')
    .replace(/&amp;/g, '&');
/** The form of a page. */
export function formIn(html: string): { action: string; fields: Record<string, string> } | null {
  const action = /<form\b[^<>]{0,400}?\baction="([^"]*)"/.exec(html)?.[1];
  if (action === undefined) return null;
  const fields = [...html.matchAll(/<input\b[^<>]{1,8000}>/g)].map(([tag]): [string, string] => [
    unescaped(/\bname="([^"]*)"/.exec(tag)?.[1] ?? ''),
    unescaped(/\bvalue="([^"]*)"/.exec(tag)?.[1] ?? ''),
  ]);
  return { action: unescaped(action), fields: Object.fromEntries(fields.filter(([name]) => name)) };
}
