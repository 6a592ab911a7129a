import { describe, expect, it } from 'vitest'

import { jarOf } from './codes'
import { readGrey } from './codesByHand'

describe('codes', () => {
  it('of a jar lead to it, wherever it was printed for', () => {
    const token = 'Zb1x-9mQe_4T7uVa2LrKpw'
    expect(jarOf(`https://workshop.example/j/${token}`)).toBe(`/j/${token}`)
    expect(jarOf(`http://192.168.0.4:8420/j/${token} `)).toBe(`/j/${token}`)
    expect(jarOf('https://elsewhere.example/j/short')).toBeUndefined()
    expect(jarOf('LOT 22B')).toBeUndefined()
    expect(jarOf(`javascript:alert(1)//j/${token}?x`)).toBeUndefined()
  })

  // EAN-13 after its own standard (GS1 General Specifications, figures of the sets A, B and C;
  // from memory): drawn here by its bars, read back by the reader.
  it('are read off grey values', () => {
    const A = [
      '0001101',
      '0011001',
      '0010011',
      '0111101',
      '0100011',
      '0110001',
      '0101111',
      '0111011',
      '0110111',
      '0001011',
    ]
    const C = A.map((bits) => bits.replace(/[01]/g, (b) => (b === '0' ? '1' : '0')))
    const B = C.map((bits) => [...bits].reverse().join(''))
    const parity = [
      'AAAAAA',
      'AABABB',
      'AABBAB',
      'AABBBA',
      'ABAABB',
      'ABBAAB',
      'ABBBAA',
      'ABABAB',
      'ABABBA',
      'ABBABA',
    ]
    const code = '2001234567893' // begins with 2: for use within a workshop
    const digit = (i: number) => Number(code[i])
    const left = [1, 2, 3, 4, 5, 6].map((i) => (parity[digit(0)]?.[i - 1] === 'A' ? A : B)[digit(i)])
    const right = [7, 8, 9, 10, 11, 12].map((i) => C[digit(i)])
    const bars = `101${left.join('')}01010${right.join('')}101`
    const wide = 4
    const quiet = 12
    const width = (bars.length + 2 * quiet) * wide
    const height = 120
    const grey = new Uint8ClampedArray(width * height).fill(240)
    for (let x = 0; x < bars.length; x++)
      if (bars[x] === '1')
        for (let y = 10; y < height - 10; y++)
          grey.fill(20, y * width + (quiet + x) * wide, y * width + (quiet + x + 1) * wide)
    expect(readGrey(grey, width, height)).toBe(code)
    expect(readGrey(new Uint8ClampedArray(100 * 100).fill(200), 100, 100)).toBeUndefined()
  })
})
