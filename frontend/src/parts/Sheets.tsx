import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { answered, asProblem, client, type SheetOf, type SheetRowView, type SheetView } from "../api/client";
import { bookQuery, materialsQuery, sheetsQuery } from "../api/queries";
import { counted } from "../look/counted";
import { useNotices } from "../look/notices";
import { usePrefs } from "../look/prefs";
import { say } from "../look/units";
import { Choice } from "./Choice";
import { isAsked } from "./fields";
import { HourBars } from "./HourBars";
import { Problem, Waiting } from "./Problem";
import { sendPhoto } from "./sent";
import { SpecForm } from "./SpecForm";

/** Sheets of a trial, a build or a site: rows that a person writes down, and what the core makes of them; nothing here knows what is in a row. */
export interface Owner {
  of: SheetOf;
  id: number;
}

interface Props extends Owner {
  /** Sheets to show, all where none is named. */
  only?: string[];
  /** Photos that a row may point to. */
  photos?: { id: number; title: string }[];
  /** Whether their rows stand open from the first. */
  open?: boolean;
}

export function Sheets({ of, id, only, photos = [], open = false }: Props) {
  const { data, error } = useQuery(sheetsQuery(of, id));
  if (error) return <Problem error={error} />;
  if (!data) return <Waiting what="Opening the sheets" />;
  return data.filter((sheet) => !only || only.includes(sheet.name)).map((sheet) => <Sheet key={sheet.name} sheet={sheet} owner={{ of, id }} photos={photos} openAtFirst={open} />);
}

type Content = SheetRowView["content"];
/** What is being written: a new row, or one that stands. */
type Writing = { row: SheetRowView | null; content: Content };

function Sheet({ sheet, owner, photos, openAtFirst }: { sheet: SheetView; owner: Owner; photos: { id: number; title: string }[]; openAtFirst: boolean }) {
  const { units } = usePrefs();
  const [writing, setWriting] = useState<Writing | null>(null);
  const [open, setOpen] = useState(openAtFirst);
  return (
    <Box component="section" aria-label={say(sheet.title, units)} className="mt-2">
      <Typography variant="h2">{say(sheet.title, units)}</Typography>
      {(sheet.rows.length === 0 || writing) && <Typography variant="body2" className="ink-soft mb-0_5">{say(sheet.purpose, units)}</Typography>}
      {sheet.words.map((words, k) => <Typography key={k} className="mb-0_5">{say(words, units)}</Typography>)}
      {sheet.bars && <Typography variant="body2">{say(sheet.bars.title, units)}</Typography>}
      {sheet.bars && <HourBars label={say(sheet.bars.title, units)} bars={sheet.bars.bars.map((bar, k) => ({ key: String(k), over: say(bar.says ?? [], units).split(" ")[0]!, share: bar.share, under: say(bar.title, units), chosen: bar.picked ?? false, title: say(bar.says ?? [], units) }))} />}
      {open && <Rows sheet={sheet} owner={owner} onChange={(row) => setWriting({ row, content: row.content })} />}
      {writing && <Form key={writing.row?.id ?? 0} sheet={sheet} owner={owner} photos={photos} writing={writing} onDone={() => setWriting(null)} />}
      <Box className="flex gap-1 mt-0_5">
        {!writing && <Button aria-label={`Write one down: ${say(sheet.title, units)}`} onClick={() => setWriting({ row: null, content: sheet.blank })}>Write one down</Button>}
        {sheet.rows.length > 0 && <Button variant="text" aria-expanded={open} aria-label={`${open ? "fold the rows" : rowsWords(sheet)}: ${say(sheet.title, units)}`} onClick={() => setOpen(!open)}>{open ? "fold the rows" : rowsWords(sheet)}</Button>}
      </Box>
    </Box>
  );
}

const rowsWords = (sheet: SheetView) => {
  const odd = sheet.rows.filter((row) => row.warning.length > 0).length;
  return `${counted(sheet.rows.length, "row")}${odd ? `, ${odd} to look at` : ""}`;
};

const FEW = 8;

function Rows({ sheet, owner, onChange }: { sheet: SheetView; owner: Owner; onChange: (row: SheetRowView) => void }) {
  const { units } = usePrefs();
  const [all, setAll] = useState(false);
  const away = useAway(owner);
  const shown = all ? sheet.rows : sheet.rows.slice(-FEW);
  return (
    <>
      <Box component="table" className="ruled as-cards" aria-label={`rows: ${say(sheet.title, units)}`}>
        <thead><tr>{sheet.columns.map((c, k) => <th key={k} scope="col">{say(c, units)}</th>)}<th scope="col">row</th></tr></thead>
        <tbody>
          {shown.map((row) => (
            <tr key={row.id}>
              {sheet.columns.map((_, k) => <td key={k} data-label={say(sheet.columns[k]!, units)}>{row.cells[k] === undefined ? "–" : say(row.cells[k]!, units)}{k === 0 && say(row.warning, units) && <Typography variant="body2" className="rust">{say(row.warning, units)}</Typography>}</td>)}
              <td>
                <RowPhotos row={row} owner={owner} />
                <Button variant="text" aria-label={`change row ${row.id}`} onClick={() => onChange(row)}>change</Button>
                <Button variant="text" aria-label={`take back row ${row.id}`} onClick={() => away.mutate(row)}>take back</Button>
              </td>
            </tr>
          ))}
        </tbody>
      </Box>
      {sheet.rows.length > FEW && <Button variant="text" onClick={() => setAll(!all)}>{all ? `the last ${FEW}` : `all ${sheet.rows.length} rows`}</Button>}
    </>
  );
}

/** Pictures of what a row tells of: shown, taken, taken back. */
function RowPhotos({ row, owner }: { row: SheetRowView; owner: Owner }) {
  const input = useRef<HTMLInputElement>(null);
  const notices = useNotices();
  const written = useWritten(owner);
  const most = useQuery(bookQuery).data?.photo_most_bytes;
  const path = (part: number) => ({ params: { path: { id: row.id, part_id: part } } });
  const take = useMutation({
    mutationFn: (file: File) => sendPhoto<SheetView[]>(`/api/sheet-rows/${row.id}/photos`, file, most ?? 0),
    onSuccess: (next) => { written(next); notices.say("Photo kept."); },
    onError: (error) => notices.warn(asProblem(error).message),
  });
  const bring = async (id: number) => written(await answered(client.POST("/api/sheet-rows/{id}/photos/{part_id}/restore", path(id))));
  const drop = useMutation({
    mutationFn: (id: number) => answered(client.POST("/api/sheet-rows/{id}/photos/{part_id}/withdraw", path(id))),
    onSuccess: (next, id) => { written(next); notices.say("Photo taken back.", { label: "Bring it back", run: () => void bring(id) }); },
    onError: (error) => notices.warn(asProblem(error).message),
  });
  return (
    <Box className="flex wrap gap-0_5 items-center">
      {row.photos.map((id) => (
        <Box key={id} className="flex column">
          <a href={`/api/sheet-rows/${row.id}/photos/${id}`} target="_blank" rel="noreferrer"><Box component="img" src={`/api/sheet-rows/${row.id}/photos/${id}`} alt={`photo of row ${row.id}`} loading="lazy" className="max-width-120 border-1-rule as-block" /></a>
          <Button variant="text" aria-label={`take back photo ${id} of row ${row.id}`} onClick={() => drop.mutate(id)}>away</Button>
        </Box>
      ))}
      <Button variant="text" disabled={take.isPending || most === undefined} aria-label={`photo of row ${row.id}`} onClick={() => input.current?.click()}>{take.isPending ? "sending …" : "photo"}</Button>
      <input ref={input} type="file" hidden accept="image/*" capture="environment" aria-label={`a photo for row ${row.id}`} onChange={(e) => { const file = e.target.files?.[0]; if (file) take.mutate(file); e.target.value = ""; }} />
    </Box>
  );
}

/** What a written row changes: its sheets, and whatever stands on them. */
function useWritten(owner: Owner) {
  const cache = useQueryClient();
  return (next: SheetView[]) => {
    cache.setQueryData(sheetsQuery(owner.of, owner.id).queryKey, next);
    void cache.invalidateQueries({ queryKey: [owner.of, owner.id] });
    for (const key of ["trials", "bill"]) void cache.invalidateQueries({ queryKey: [key] });
  };
}

function useAway(owner: Owner) {
  const notices = useNotices();
  const written = useWritten(owner);
  const bring = async (row: SheetRowView) => written(await answered(client.POST("/api/sheet-rows/{id}/restore", { params: { path: { id: row.id }, header: { "If-Match": `"r${row.revision + 1}"` } } })));
  return useMutation({
    mutationFn: (row: SheetRowView) => answered(client.POST("/api/sheet-rows/{id}/withdraw", { params: { path: { id: row.id }, header: { "If-Match": `"r${row.revision}"` } } })),
    onSuccess: (next, row) => {
      written(next);
      notices.done("The row was taken back.", () => void bring(row));
    },
    onError: (error) => notices.warn(asProblem(error).message),
  });
}

interface Formed {
  sheet: SheetView;
  owner: Owner;
  photos: { id: number; title: string }[];
  writing: Writing;
  onDone: () => void;
}

function Form({ sheet, owner, photos, writing, onDone }: Formed) {
  const { units } = usePrefs();
  const materials = useQuery(materialsQuery).data;
  const [content, setContent] = useState<Content>(writing.content);
  const written = useWritten(owner);
  const put = useMutation({
    mutationFn: () => {
      if (writing.row) return answered(client.PUT("/api/sheet-rows/{id}", { params: { path: { id: writing.row.id }, header: { "If-Match": `"r${writing.row.revision}"` } }, body: { content } }));
      return answered(client.POST("/api/sheets/{of}/{owner_id}/{sheet}", { params: { path: { of: owner.of, owner_id: owner.id, sheet: sheet.name } }, body: { content } }));
    },
    onSuccess: (next) => {
      written(next);
      if (writing.row) onDone();
      else setContent(next.find((s) => s.name === sheet.name)!.blank);
    },
  });
  const notices = useNotices();
  const changed = Object.keys(content).filter((name) => content[name] !== writing.content[name]);
  const pick = (from: Content) => Object.fromEntries(changed.map((name) => [name, from[name]])) as Content;
  const setAll = (changes: Content) => answered(client.POST("/api/sheets/{of}/{owner_id}/{sheet}/set", { params: { path: { of: owner.of, owner_id: owner.id, sheet: sheet.name } }, body: { changes } }));
  const everywhere = useMutation({
    mutationFn: () => setAll(pick(content)),
    onSuccess: (next) => {
      written(next);
      const before = pick(writing.content);
      const alike = sheet.rows.every((row) => changed.every((name) => row.content[name] === before[name]));
      const said = `Changed in ${sheet.rows.length} rows.`;
      if (alike) notices.done(said, () => void setAll(before).then(written));
      else notices.say(said);
      onDone();
    },
  });
  if (!materials) return null;
  const failed = put.error ?? everywhere.error;
  const problem = failed ? asProblem(failed) : null;
  const set = (name: string, value: unknown) => setContent((old) => ({ ...old, [name]: value as Content[string] }));
  const edit = { set, add: () => undefined, remove: () => undefined, about: (path: string) => problem?.about(path) };
  const plain = sheet.fields.filter((f) => f.family !== "photos");
  const missing = sheet.fields.some((f) => !f.may_be_empty && f.sort !== "text" && isAsked(f, content) && content[f.name] == null);
  return (
    <Box role="group" aria-label={`write down: ${say(sheet.title, units)}`} className="block mt-0_5">
      <SpecForm fields={plain} values={content} edit={edit} materials={materials} picked={null} />
      {sheet.fields.filter((f) => f.family === "photos" && photos.length > 0).map((f) => (
        <Choice key={f.name} label={f.title} value={typeof content[f.name] === "number" ? String(content[f.name]) : ""} options={[{ value: "", title: "–" }, ...photos.map((p) => ({ value: String(p.id), title: p.title }))]} onChange={(next) => set(f.name, next === "" ? null : Number(next))} />
      ))}
      {problem && <Typography role="alert" className="rust my-0_5">{problem.message}</Typography>}
      <Button variant="contained" disabled={missing || put.isPending} onClick={() => put.mutate()}>{writing.row ? "Change it" : "Write it down"}</Button>
      {writing.row && changed.length > 0 && sheet.rows.length > 1 && <Button disabled={missing || everywhere.isPending} onClick={() => everywhere.mutate()}>Change it in every row</Button>}
      <Button variant="text" onClick={onDone}>Done</Button>
    </Box>
  );
}
