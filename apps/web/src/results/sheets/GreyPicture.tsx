/** A picture in grey, as the worker cut it out. */
import { type Grey, rgbaOf } from '@zakuska/core/scan';
import { useEffect, useRef } from 'react';

export function GreyPicture({ of, label, className = '' }: { of: Grey; label: string; className?: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    canvas.current?.getContext('2d')?.putImageData(new ImageData(rgbaOf(of), of.width, of.height), 0, 0);
  }, [of]);
  return (
    <canvas ref={canvas} width={of.width} height={of.height} role="img" aria-label={label} className={`max-w-full rounded border border-rule ${className}`} />
  );
}
