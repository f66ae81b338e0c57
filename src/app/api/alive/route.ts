/** Says that the web answers, and which process it is, for a start that finds its port held. */
export const GET = () => new Response(`North Tally, process ${process.pid}`)
