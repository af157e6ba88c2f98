/** The form's own texts, those the owner does not write. */
export const interfaceTexts = {
  optional: '(optional)',
  leaveEmpty: 'Leave this empty: ',
  backTo: (place: string) => `Back to ${place}`,
  checkAgain: 'One thing needs another look',
  checkAgainSeveral: 'Some things need another look',
}
