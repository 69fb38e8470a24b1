import { availabilitySchema } from "../../../exchange/availability/availability";

/** The JSON Schema of what suppliers are asked and answer: for whoever programs the other end, so nobody signs in for it. */
export const loader = () => Response.json(availabilitySchema());
