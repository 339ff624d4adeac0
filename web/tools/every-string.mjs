// Every sentence that the screens say, one a line with the file it stands in; see tools/every_string.py.
import fs from 'node:fs'
import path from 'node:path'
import process from 'node:process'
import ts from 'typescript'

const SILENT =
  /^(\/|\.|@|M |data-)|\b(flex|min-h-|min-w-|text-|rounded|grid|border-|bg-|px-|mb-|gap-|size-|absolute|translate|scale|rotate)/
const found = new Map()

function files(folder) {
  return fs.readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const at = path.join(folder, entry.name)
    if (entry.isDirectory()) return files(at)
    return /\.tsx?$/.test(entry.name) && !entry.name.endsWith('.d.ts') ? [at] : []
  })
}

function add(text, file) {
  const line = text.replaceAll(/\s+/g, ' ').trim()
  if (/[A-Za-z]{2,}.* |^[A-Z][a-z]/.test(line) && !SILENT.test(line) && !found.has(line))
    found.set(line, file)
}

function read(node, file) {
  if (ts.isImportDeclaration(node) || ts.isTypeNode(node)) return
  if (ts.isJsxText(node) || ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node))
    add(node.text, file)
  if (ts.isTemplateExpression(node))
    add(node.head.text + node.templateSpans.map((span) => `…${span.literal.text}`).join(''), file)
  ts.forEachChild(node, (child) => read(child, file))
}

for (const file of files('src'))
  read(ts.createSourceFile(file, fs.readFileSync(file, 'utf8'), ts.ScriptTarget.Latest, true), file)
for (const [line, file] of found) process.stdout.write(`${file.replace('src/', '')}: ${line}\n`)
