import { ESLint } from 'eslint'
import { readdirSync, readFileSync } from 'node:fs'
import { dirname, join, normalize } from 'node:path'
import { describe, expect, it } from 'vitest'

// The rooms of the page: what each may import is held by lint, of every file; here it is
// held that lint sees each way of breaking a wall, and that nothing goes round in a circle.

const lint = new ESLint({ cwd: join(__dirname, '..') })

async function breaches(file: string, source: string): Promise<string[]> {
  const code = file.endsWith('.vue')
    ? `<script setup lang="ts">\n${source}\n</script>\n<template><p /></template>\n`
    : `${source}\n`
  const [result] = await lint.lintText(code, { filePath: join(__dirname, file) })
  return (result?.messages ?? [])
    .filter((m) => m.ruleId === '@typescript-eslint/no-restricted-imports')
    .map((m) => m.message)
}

// a slow machine takes seconds to load the rules
describe('walls', { timeout: 60_000 }, () => {
  it.each([
    ['stations/shelf/X.vue', "import { a } from '../bench/useScale'", 'knows no other'],
    ['stations/shelf/x.ts', "import { a } from '../../stations/bench/useScale'", 'knows no other'],
    ['stations/shelf/x.ts', "import type { A } from '../crock/steps'", 'knows no other'],
    ['stations/shelf/x.ts', "import Frame from '../../frame/Frame.vue'", 'what stands around it'],
    ['parts/X.vue', "import { api } from '../api/client'", 'asks the server nothing'],
    ['parts/X.vue', "import { useRack } from '../api/queries'", 'asks the server nothing'],
    ['parts/x.ts', "import ShelfJar from '../stations/shelf/ShelfJar.vue'", 'knows no station'],
    ['parts/x.ts', "import { stations } from '../registry'", 'knows no station'],
    ['api/x.ts', "import { stations } from '../stations'", 'knows no page'],
    ['api/x.ts', "import { makeOld } from '../registry'", 'knows no page'],
    ['words.ts', "import { ask } from './api/client'", 'know nothing else'],
    ['registry.ts', "import shelf from './stations/shelf/station'", 'knows none'],
    ['frame/X.vue', "import '../stations'", 'by the registry'],
    ['door/X.vue', "import Frame from '../frame/Frame.vue'", 'nothing of each other'],
  ])('%s: %s', async (file, source, why) => {
    expect((await breaches(file, source)).join()).toContain(why)
  })

  it.each([
    ['stations/shelf/x.ts', "import { ask } from '../../api/client'"],
    ['stations/shelf/x.ts', "import { station } from '../../registry'"],
    ['stations/shelf/x.ts', "import Part from '../../parts/Looking.vue'\nimport own from './marks'"],
    ['parts/x.ts', "import type { Schemas } from '../api/client'\nimport { grams } from '../words'"],
    ['frame/X.vue', "import { stations } from '../registry'\nimport { ask } from '../api/client'"],
  ])('%s may: %s', async (file, source) => {
    expect(await breaches(file, source)).toEqual([])
  })

  it('goes round in no circle', () => {
    const files = readdirSync(__dirname, { recursive: true, encoding: 'utf8' }).filter(
      (f) => /\.(ts|vue)$/.test(f) && !/\.(test|d)\.ts$/.test(f),
    )
    const known = new Set(files)
    const of = new Map(
      files.map((file) => {
        const source = readFileSync(join(__dirname, file), 'utf8')
        const named = [...source.matchAll(/^(?:import|export)[^;'"]*?['"](\.[^'"]+)['"]/gm)].map((m) =>
          normalize(join(dirname(file), m[1] ?? '')),
        )
        return [file, named.flatMap((n) => [n, `${n}.ts`].filter((f) => known.has(f)))] as const
      }),
    )
    const done = new Set<string>()
    const circles: string[] = []
    const walk = (file: string, path: string[]) => {
      if (path.includes(file)) circles.push([...path.slice(path.indexOf(file)), file].join(' → '))
      if (done.has(file) || path.includes(file)) return
      for (const next of of.get(file) ?? []) walk(next, [...path, file])
      done.add(file)
    }
    for (const file of files) walk(file, [])
    expect(files.length).toBeGreaterThan(80)
    expect(circles).toEqual([])
  })
})
