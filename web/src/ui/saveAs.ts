/** Hands a file to the person at this device. */
export function saveAs(content: Blob, name: string) {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(content)
  link.download = name.replaceAll(/[^a-z0-9.]+/gi, '-')
  link.click()
  URL.revokeObjectURL(link.href)
}
