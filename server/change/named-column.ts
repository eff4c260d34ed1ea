import { isUniqueViolation } from '../database/database'
import { refusals } from '../http/refusal'

/** @param work gives a column this name. @throws Refusal `name-taken` where another of its table has it */
export async function named<Result>(name: string, work: () => Promise<Result>): Promise<Result> {
  try {
    return await work()
  } catch (error) {
    if (isUniqueViolation(error, 'data_column_name')) throw refusals.columnTaken(name)
    throw error
  }
}
