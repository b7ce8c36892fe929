/**
 * What only a terminal or a program asks for, and no page: agreed, and held by only-terminal.test.ts. All else that the service can do, a
 * page can.
 */
export const onlyTerminal: Record<string, string> = {
  'POST /api/tokens': 'the command line signs in',
  'POST /api/tokens/askings': 'the command line asks to be let in',
  'POST /api/tokens/fetch': 'the command line was let in',
  'GET /api/feeds/{key}': 'calendar programs read it',
  'GET /api/my-swaps': 'a person’s own programs',
  'POST /api/hand/enrol': 'hands',
  'POST /api/hand/orders/next': 'hands',
  'POST /api/hand/orders/{order}/reports/{number}': 'hands',
  'POST /api/refreshes/{refresh}/mails': 'a mail server hands over what came back',
  'GET /api/link-refusals': 'counts for whoever runs the service',
  // Parts of what a page reads in one piece.
  'GET /api/refreshes/{refresh}': 'the list of refreshes has it',
  'GET /api/refreshes/{refresh}/ways': 'the world has them',
  'GET /api/refreshes/{refresh}/closures': 'the world has them',
  'GET /api/refreshes/{refresh}/deliveries': 'the world has them',
  'GET /api/refreshes/{refresh}/waves': 'the world has them',
  'GET /api/refreshes/{refresh}/depots': 'the world has them',
  'GET /api/refreshes/{refresh}/estimates': 'the world has them',
  'GET /api/refreshes/{refresh}/catalogue': 'the world has it',
  'GET /api/refreshes/{refresh}/groups': 'the world has them',
  'GET /api/follow-ups/{followUp}': 'the list of follow-ups has it',
  'GET /api/refreshes/{refresh}/notices': 'the page Told has the newest of each person',
}
