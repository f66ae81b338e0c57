/** Says that the web answers. */
export const GET = () => new Response('North Tally')
