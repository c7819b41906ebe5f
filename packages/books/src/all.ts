import type { DriveBook } from '@yare/contract';
import osierG from '../data/osier-g.json';
import sallow from '../data/sallow.json';
import withy from '../data/withy.json';
import { shelve } from './book';

/** Puts every drive book on the shelf. Apart from the rules, so that a page fetches the books when it first opens a machine. */
// a JSON module's texts are plain strings to the compiler; the books' own test holds the files against the schema
for (const book of [withy, osierG, sallow]) shelve(book as DriveBook);
