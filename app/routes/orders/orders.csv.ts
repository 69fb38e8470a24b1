import { listFile } from "../../web/list";

export const loader = listFile("orders", "csv");
