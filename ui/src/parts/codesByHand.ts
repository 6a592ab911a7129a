import {
  BarcodeFormat,
  BinaryBitmap,
  DecodeHintType,
  HybridBinarizer,
  MultiFormatOneDReader,
  QRCodeReader,
  RGBLuminanceSource,
} from '@zxing/library'

// Reads codes where the browser cannot by itself. Loaded when it is used.

const lines = [BarcodeFormat.CODE_128, BarcodeFormat.CODE_39, BarcodeFormat.EAN_13, BarcodeFormat.EAN_8]
const hints = new Map<DecodeHintType, unknown>([
  [DecodeHintType.POSSIBLE_FORMATS, lines],
  [DecodeHintType.TRY_HARDER, true],
])
const readers = [new QRCodeReader(), new MultiFormatOneDReader(hints)]
const canvas = document.createElement('canvas')

/** What the code in a picture says, of its grey values from 0 to 255; nothing where none is in it. */
export function readGrey(grey: Uint8ClampedArray, width: number, height: number): string | undefined {
  const bitmap = new BinaryBitmap(new HybridBinarizer(new RGBLuminanceSource(grey, width, height)))
  for (const reader of readers) {
    try {
      return reader.decode(bitmap, hints).getText()
    } catch {
      reader.reset() // there is none of its sort, or it is blurred
    }
  }
  return undefined
}

/** What the code says that a camera shows. */
export function readFrame(from: HTMLVideoElement): string | undefined {
  const { videoWidth: width, videoHeight: height } = from
  const on = canvas.getContext('2d', { willReadFrequently: true })
  if (!width || !height || !on) return undefined
  Object.assign(canvas, { width, height })
  on.drawImage(from, 0, 0)
  const rgba = on.getImageData(0, 0, width, height).data
  const grey = new Uint8ClampedArray(width * height)
  // as bright as it looks: ITU-R BT.601
  for (let i = 0; i < grey.length; i++)
    grey[i] = 0.299 * (rgba[4 * i] ?? 0) + 0.587 * (rgba[4 * i + 1] ?? 0) + 0.114 * (rgba[4 * i + 2] ?? 0)
  return readGrey(grey, width, height)
}
