/** The pages of the help, in the order in which they are read; `means` are other words that they are looked for by. */
export const helpPages: readonly { name: string; title: string; means: string }[] = [
  { name: 'keys', title: 'Keys', means: 'shortcuts keyboard' },
  { name: 'first-form', title: 'The first form in five minutes', means: 'help start begin tutorial guide how to' },
  { name: 'sites', title: 'Each kind of site', means: 'help builder code paste script frame link where goes' },
  { name: 'online', title: 'Going online', means: 'help server domain https host mail backup' },
  { name: 'people', title: 'Others who work with you', means: 'team colleague editor client share key right user' },
  { name: 'proof', title: 'What is proven, and how', means: 'help rehearsal arm signal line test red' },
  { name: 'lists', title: 'Lists and rights', means: 'help people consent receipt erase privacy law service' },
  { name: 'messages', title: 'Messages to you', means: 'help contact write inbox mail spam held box' },
  { name: 'letters', title: 'Writing to a list', means: 'help newsletter letter send series feed blog post mailing' },
  { name: 'words', title: 'Words that are ours', means: 'help glossary meaning spot receiver stand-in gift' },
]
