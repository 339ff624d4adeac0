/** How a coat stands, in the words of the table. */
export const COATS = [
  { id: 'standing', words: 'Standing', hint: 'blown out, it stays up' },
  { id: 'curl', words: 'Curly', hint: 'springs back' },
  { id: 'wavy', words: 'Wavy', hint: 'bends as it falls' },
  { id: 'fine_drop', words: 'Fine, dropping', hint: 'hangs from the skin' },
  { id: 'harsh', words: 'Harsh', hint: 'wiry, for pulling' },
]
