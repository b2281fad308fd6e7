/** What the interface has no route for. */
export default defineEventHandler(event => {
  throw createError({ statusCode: 404, message: `There is no such route: ${event.path.split('?')[0]!.slice(0, 100)}` })
})
