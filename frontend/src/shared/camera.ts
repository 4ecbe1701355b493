// Codes in the camera's picture, read by a detector that is shipped with the application.

interface Detector {
  detect: (source: HTMLVideoElement) => Promise<{ rawValue: string }[]>;
}

const FORMATS = ['code_128', 'ean_13', 'ean_8', 'upc_a', 'itf', 'qr_code', 'data_matrix'];
const EVERY_MS = 300;

async function detector(): Promise<Detector> {
  const { BarcodeDetector, prepareZXingModule } = await import('barcode-detector/ponyfill');
  const { default: reader } = await import('zxing-wasm/reader/zxing_reader.wasm?url');
  // Ours, and never one from elsewhere.
  prepareZXingModule({ overrides: { locateFile: () => reader } });
  return new BarcodeDetector({ formats: FORMATS as never }) as unknown as Detector;
}

/** Watch the camera until it is told to stop; a code is told once until another one is seen. */
export function codesInVideo(
  video: HTMLVideoElement,
  onCode: (code: string) => void,
  onProblem: (words: string) => void,
): () => void {
  let stopped = false;
  let stream: MediaStream | null = null;
  let last = '';
  const stop = () => {
    stopped = true;
    stream?.getTracks().forEach((track) => track.stop());
  };
  const look = async (found: Detector) => {
    while (!stopped) {
      const [seen] = video.readyState >= 2 ? await found.detect(video).catch(() => []) : [];
      if (seen && seen.rawValue !== last) {
        last = seen.rawValue;
        onCode(last);
      }
      await new Promise((done) => setTimeout(done, EVERY_MS));
    }
  };
  const start = async () => {
    stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: 'environment' } });
    if (stopped) return stop();
    video.srcObject = stream;
    await video.play();
    await look(await detector());
  };
  start().catch(() =>
    onProblem('There is no camera that may be used here. Type the code, or use a scanner.'),
  );
  return stop;
}
