'use server'
import { z } from 'zod'
import { orderFormSchema } from '@/intake/orderForm'
import { writeOrder } from '@/runs/drafts/orderForm'
import { today } from '../books'
import { act } from './seam'

/** Puts an order that was typed into the books. */
export const saveOrder = act(z.tuple([orderFormSchema]), ({ books, desk }, form) =>
	writeOrder(books, desk, form, today()),
)
