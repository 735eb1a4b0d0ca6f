// The page of a making.
import { pictures } from "./pictures.js";

pictures();
