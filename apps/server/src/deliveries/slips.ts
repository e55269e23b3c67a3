/** Slips to print and cut: one for each person, with their code, their link, and the link as a QR code. */
import { escapeXml } from '@zakuska/core/markup';
import QRCode from 'qrcode';

interface Slip {
  name: string;
  code: string;
  link: string;
}
const STYLE = `
  @page { margin: 12mm }
  body { margin: 0; font: 11pt/1.35 "Atkinson Hyperlegible Next Variable", system-ui, sans-serif; color: #000; background: #fff }
  ul { list-style: none; margin: 0; padding: 0; display: grid; grid-template-columns: 1fr 1fr }
  li { display: grid; grid-template-columns: 30mm 1fr; gap: 4mm; align-items: center; padding: 4mm; border: 0.3mm dashed #888; break-inside: avoid; margin: -0.15mm }
  svg { width: 30mm; height: 30mm; display: block }
  b { display: block; font-size: 13pt }
  code { display: block; font: 700 15pt/1.4 ui-monospace, monospace; letter-spacing: 0.1em }
  small { overflow-wrap: anywhere }
`;

/** An HTML page; two slips a row, none cut by the end of a page. */
export async function slipsPage(title: string, slips: readonly Slip[]): Promise<string> {
  const rows = await Promise.all(
    slips.map(async ({ name, code, link }) => {
      const qr = await QRCode.toString(link, { type: 'svg', margin: 0, errorCorrectionLevel: 'M' });
      const shown = `${code.slice(0, 4)} ${code.slice(4)}`;
      return `<li>${qr}<div><b>${escapeXml(name)}</b>${escapeXml(title)}<code>${escapeXml(shown)}</code><small>${escapeXml(link.replace(/^https?:\/\//, ''))}</small></div></li>`;
    }),
  );
  return `<!doctype html><html><head><meta charset="utf-8"><title>${escapeXml(title)}</title><style>${STYLE}</style></head><body><ul>${rows.join('')}</ul></body></html>`;
}
