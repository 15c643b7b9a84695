/** A file's text, whatever wrote it: UTF-8, UTF-16 by its mark, else the Windows letters of western Europe. */
export function decoded(bytes: Uint8Array): { text: string; as: string } {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return { text: new TextDecoder('utf-16le').decode(bytes), as: 'UTF-16' }
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return { text: new TextDecoder('utf-16be').decode(bytes), as: 'UTF-16' }
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), as: 'UTF-8' }
  } catch {
    return { text: new TextDecoder('windows-1252').decode(bytes), as: 'Windows-1252' }
  }
}
