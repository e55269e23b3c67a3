/** A part of a picture in place of the whole: marked with the pointer, or typed in per cent. */
import { useRef, useState } from 'react';
import ReactCrop, { type PercentCrop } from 'react-image-crop';
import 'react-image-crop/dist/ReactCrop.css';
import { Button } from '../ui/Button.js';
import { Input } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { drawn } from './richDoc.js';
import { say } from '../words/say.js';

const SIDES = [
  ['x', say('From the left')],
  ['y', say('From the top')],
  ['width', say('Width')],
  ['height', say('Height')],
] as const;

export function CropDialog({ src, onDone, onClose }: { src: string; onDone: (src: string) => void; onClose: () => void }) {
  const [crop, setCrop] = useState<PercentCrop>({ unit: '%', x: 0, y: 0, width: 100, height: 100 });
  const image = useRef<HTMLImageElement>(null);
  const cut = (): void => {
    const i = image.current;
    if (!i) return;
    const px = (share: number, of: number): number => (share / 100) * of;
    onDone(
      drawn(
        i,
        { x: px(crop.x, i.naturalWidth), y: px(crop.y, i.naturalHeight), width: px(crop.width, i.naturalWidth), height: px(crop.height, i.naturalHeight) },
        1,
      ),
    );
  };
  return (
    <Modal
      open
      wide
      onClose={onClose}
      title={say('Crop the picture')}
      foot={
        <>
          <span className="flex-1" />
          <Button onClick={onClose}>{say('Cancel')}</Button>
          <Button look="primary" disabled={crop.width < 1 || crop.height < 1} onClick={cut}>
            {say('Crop')}
          </Button>
        </>
      }
    >
      <div className="grid justify-items-center gap-3">
        <ReactCrop crop={crop} onChange={(_, percent) => setCrop(percent)} keepSelection ruleOfThirds>
          <img ref={image} src={src} alt={say('To be cropped')} style={{ maxHeight: '50vh' }} />
        </ReactCrop>
        <div className="flex flex-wrap gap-3">
          {SIDES.map(([side, name]) => (
            <label key={side} className="flex items-center gap-1.5 text-[13.5px]">
              {name}
              <Input
                type="number"
                min={0}
                max={100}
                className="w-20!"
                value={Math.round(crop[side] * 10) / 10}
                onChange={(e) => {
                  const n = Math.min(100, Math.max(0, Number(e.target.value)));
                  setCrop((c) => {
                    const next = { ...c, [side]: n };
                    return { ...next, width: Math.min(next.width, 100 - next.x), height: Math.min(next.height, 100 - next.y) };
                  });
                }}
              />
              %
            </label>
          ))}
        </div>
      </div>
    </Modal>
  );
}
