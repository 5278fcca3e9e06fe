import { readdirSync, readFileSync } from 'node:fs'
import ts from 'typescript'
import { describe, expect, it } from 'vitest'

/**
 * Whatever a person reads can be said in another language: no bare words between tags, none in what is read out. What is
 * built from codes, the walk of the browser finds.
 */

const READ_OUT = new Set([
  'aria-label',
  'aria-description',
  'title',
  'placeholder',
  'alt',
  'ask',
  'says',
  'label',
])
const FILES = readdirSync('src', { recursive: true, encoding: 'utf8' })
  .filter((file) => file.endsWith('.tsx') && !/\.test\.|^test\//.test(file))
  .map((file) => `src/${file}`)
const hasWords = (text: string) => /[A-Za-z]{2}/.test(text.replaceAll(/&\w+;/g, ''))
const inTrans = (node: ts.Node): boolean => {
  for (let at: ts.Node = node; at.parent; at = at.parent)
    if (ts.isJsxElement(at) && at.openingElement.tagName.getText() === 'Trans') return true
  return false
}

function bareWords(file: string): string[] {
  const source = ts.createSourceFile(file, readFileSync(file, 'utf8'), ts.ScriptTarget.Latest, true)
  const found: string[] = []
  const visit = (node: ts.Node) => {
    if (ts.isJsxText(node) && hasWords(node.text) && !inTrans(node)) found.push(node.text.trim())
    if (
      ts.isJsxAttribute(node) &&
      READ_OUT.has(node.name.getText()) &&
      node.initializer &&
      ts.isStringLiteral(node.initializer) &&
      hasWords(node.initializer.text)
    )
      found.push(node.initializer.text)
    ts.forEachChild(node, visit)
  }
  visit(source)
  return found
}

describe('words on the screens', () => {
  it('are found where they are', () => expect(FILES.length).toBeGreaterThan(50))

  it.each(FILES)('of %s can be said in another language', (file) => {
    expect(bareWords(file)).toEqual([])
  })
})
