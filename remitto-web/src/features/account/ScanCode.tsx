import QRCode from 'qrcode';
import { useMemo } from 'react';

/** A text as a QR code (ISO/IEC 18004), black on white in every theme, since cameras read it. */
export function ScanCode({ text }: { text: string }) {
  const { size, path } = useMemo(() => {
    const { modules } = QRCode.create(text, { errorCorrectionLevel: 'M' });
    const dark = Array.from(modules.data).flatMap((bit, at) =>
      bit ? [`M${at % modules.size} ${Math.floor(at / modules.size)}h1v1h-1z`] : [],
    );
    return { size: modules.size, path: dark.join('') };
  }, [text]);
  return (
    <svg
      role="img"
      aria-label="QR code with the key for the authenticator"
      viewBox={`-4 -4 ${size + 8} ${size + 8}`}
      width={200}
      height={200}
      shapeRendering="crispEdges"
    >
      <rect x={-4} y={-4} width={size + 8} height={size + 8} fill="#fff" />
      <path d={path} fill="#000" />
    </svg>
  );
}
