/** Documents as pages: their texts come with the page, and nothing is fetched from anywhere else. */
import MarkdownIt from 'markdown-it'
import { anchorOf, helpAddress } from './help-pages'

export interface HelpText {
  html: string
  headings: { words: string; anchor: string }[]
}

/** Without HTML of its own: what is not Markdown is shown as it is written. @param text Markdown (CommonMark, with tables) */
export function helpText(text: string): HelpText {
  const markdown = new MarkdownIt({ html: false, linkify: false })
  const headings: HelpText['headings'] = []
  markdown.core.ruler.push('places', ({ tokens }) => {
    tokens.forEach((token, at) => {
      if (token.type !== 'heading_open') return
      const words = tokens[at + 1]!.content.replaceAll(/[`*]/g, '')
      token.attrSet('id', anchorOf(words))
      if (token.tag === 'h2') headings.push({ words, anchor: anchorOf(words) })
    })
    for (const token of tokens.flatMap((one) => one.children ?? [])) {
      if (token.type !== 'link_open') continue
      const address = helpAddress(String(token.attrGet('href')))
      if (address) token.attrSet('href', address)
    }
    // A page may not carry styles of its own; how columns are set is told by a class.
    for (const token of tokens) {
      const style = token.attrGet('style')
      if (typeof style !== 'string') continue
      token.attrs = token.attrs!.filter(([name]) => name !== 'style')
      if (style.includes('right')) token.attrSet('class', 'right')
    }
  })
  return { html: markdown.render(text), headings }
}
