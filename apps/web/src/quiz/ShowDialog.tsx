/** The way into a quiz, large enough to be read from the back of a room. */
import { Modal } from '../ui/Modal.js';
import { say } from '../words/say.js';

export function ShowDialog({ delivery, code, link, title, onClose }: { delivery: string; code: string; link: string; title: string; onClose: () => void }) {
  const address = link.replace(/^https?:\/\//, '');
  return (
    <Modal open full onClose={onClose} title={title}>
      <div className="grid h-full grid-cols-1 place-items-center gap-4 text-center sm:grid-cols-2">
        <img
          src={`/api/v1/deliveries/${delivery}/qr.svg`}
          alt={say('QR code of the link {link}', { link })}
          className="max-h-[70vh] w-full max-w-[70vh] rounded border border-rule bg-[#fff]"
        />
        <div className="grid gap-6">
          <p className="text-[clamp(18px,2.6vw,34px)] break-all">{address.slice(0, address.lastIndexOf('/'))}</p>
          <p className="font-mono text-[clamp(40px,8vw,120px)]/none font-bold tracking-widest">{code}</p>
        </div>
      </div>
    </Modal>
  );
}
