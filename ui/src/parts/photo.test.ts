import { describe, expect, it } from 'vitest'

import { asJpeg, base64Of, drawnSize } from './photo'

describe('a photo', () => {
  it('keeps its shape and is never larger than what is kept', () => {
    expect(drawnSize(4000, 3000)).toEqual({ width: 1600, height: 1200 })
    expect(drawnSize(3000, 4000)).toEqual({ width: 1200, height: 1600 })
    expect(drawnSize(640, 480)).toEqual({ width: 640, height: 480 })
    expect(drawnSize(9000, 1)).toEqual({ width: 1600, height: 1 })
  })
  it('is sent as what stands behind the comma', () => {
    expect(base64Of('data:image/jpeg;base64,/9j/4AA=')).toBe('/9j/4AA=')
  })
  it('says of what cannot be read that it is no picture', async () => {
    await expect(asJpeg(new Blob(['text']))).rejects.toThrow('no picture')
  })
})
