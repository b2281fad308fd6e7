import { readShelf } from '../../db/shelf'

export default defineEventHandler(() => readShelf())
