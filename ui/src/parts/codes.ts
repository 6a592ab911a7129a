// Codes that a camera reads: the QR code of a jar, what a supplier printed on a bag.

/** Whether this browser can hand out a camera: over TLS or on the machine itself. */
export const canReadCodes = Boolean(navigator.mediaDevices?.getUserMedia)

/** Where the code of a jar leads here; nothing for any other code. */
export function jarOf(text: string): string | undefined {
  const token = /\/j\/([\w-]{20,})$/.exec(text.trim())?.[1]
  return token && `/j/${token}`
}

/** Reads a code off a picture of the camera; nothing where none is in it. */
export type Reader = (from: HTMLVideoElement) => Promise<string | undefined>

interface Detector {
  detect(from: HTMLVideoElement): Promise<{ rawValue: string }[]>
}
declare const BarcodeDetector: { new (): Detector; getSupportedFormats(): Promise<string[]> } | undefined

/** The browser's own reader, or the one that ships with the page. */
export async function codeReader(): Promise<Reader> {
  if (typeof BarcodeDetector !== 'undefined' && (await BarcodeDetector.getSupportedFormats()).length) {
    const detector = new BarcodeDetector()
    return async (from) => (await detector.detect(from))[0]?.rawValue
  }
  const { readFrame } = await import('./codesByHand')
  return (from) => Promise.resolve(readFrame(from))
}
