import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Tab, TabList, TabPanel, Tabs } from "react-aria-components";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import styled from "styled-components";
import { discOf } from "../../api/pictures";
import { Problem, wordsFor } from "../../api/client";
import { look as lookQuery, versionLook } from "../../api/looks";
import { lut as lutQuery } from "../../api/luts";
import { preset as presetQuery } from "../../api/presets";
import { reviews as reviewsQuery } from "../../api/review";
import { described, useDeleteEntry } from "../../api/shelf";
import { useLive } from "../../api/order";
import { useMay } from "../../api/session";
import type { Described, Kind, Picture } from "../../api/types";
import { useActions } from "../../browser/actions";
import { Secondary } from "../../kit/Button";
import { Compare, type Point, type Wipe } from "../../kit/Compare";
import { Disc, Fingerprint } from "../../kit/Disc";
import { Notice } from "../../kit/Notice";
import { NumberBox } from "../../kit/NumberBox";
import { StrengthBar } from "../../kit/StrengthBar";
import { SurroundChoice } from "../../kit/SurroundChoice";
import { Toggle } from "../../kit/Toggle";
import { WhoSees } from "../../entries/WhoSees";
import { Star } from "../../entries/Star";
import { memberIn, withMemberIn } from "../../look/family";
import { named } from "../../look/named";
import { PutIntoLook } from "../../look/PutIntoLook";
import { usePictureChoice } from "../../media/usePictureChoice";
import { HealthView } from "../health/HealthView";
import { GuestsSay } from "../review/GuestsSay";
import { PinMarks, Pins } from "../review/Pins";
import { ReviewBlock } from "../review/ReviewBlock";
import { StressView } from "../stress/StressView";
import { ToolsView } from "../tools/ToolsView";
import { CharacterFacts } from "./CharacterFacts";
import { Family } from "./Family";
import { EntryWords } from "./EntryWords";
import { GradedPicture } from "./GradedPicture";
import { Block } from "./layout";
import { LookFacts } from "./LookFacts";
import { LutFacts } from "./LutFacts";
import { PresetFacts } from "./PresetFacts";
import { AsSteps } from "./AsSteps";
import { TakeFile } from "./TakeFile";
import { ActivityList, Uses } from "./Traces";
import { useTry } from "./useTry";
import { Versions, type Shown as VersionsShown } from "./Versions";

const Columns = styled.main`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 344px;
  height: 100%;
  min-height: 0;
`;
const Field = styled(Tabs)`
  display: grid;
  grid-template-rows: 44px minmax(0, 1fr) auto;
  min-width: 0;
  min-height: 0;
  background: ${(p) => p.theme.surround.field};
  color: ${(p) => p.theme.surround.ink};
`;
const Head = styled.div`
  display: flex;
  align-items: center;
  gap: 26px;
  padding: 0 14px 0 20px;
  > :last-child {
    margin-left: auto;
  }
`;
const Pages = styled(TabList)`
  display: flex;
  gap: 20px;
  align-self: stretch;
`;
const Page = styled(Tab)`
  display: flex;
  align-items: center;
  cursor: pointer;
  font-weight: 500;
  color: ${(p) => p.theme.surround.soft};
  border-block: 2px solid transparent;
  outline-offset: -3px;
  &[data-selected] {
    color: ${(p) => p.theme.surround.ink};
    font-weight: 600;
    border-bottom-color: ${(p) => p.theme.surround.ink};
  }
  &[data-focus-visible] {
    outline: 2px solid ${(p) => p.theme.surround.ink};
  }
`;
const Shown = styled(TabPanel)`
  display: grid;
  min-height: 0;
  min-width: 0;
  position: relative;
  outline: none;
`;
const Discs = styled.nav`
  display: flex;
  gap: 12px;
  padding: 10px 20px;
  overflow-x: auto;
  background: ${(p) => p.theme.surround.tray};
  border-top: 1px solid ${(p) => p.theme.surround.line};
  button {
    border: 0;
    padding: 5px;
    background: none;
    cursor: pointer;
    border-radius: 50%;
  }
`;
const Side = styled.aside`
  display: flex;
  flex-direction: column;
  gap: 16px;
  padding: 18px;
  overflow-y: auto;
  background: ${(p) => p.theme.tokens.glaze};
  border-left: 1px solid ${(p) => p.theme.tokens.line};
`;
const Title = styled.header`
  display: grid;
  grid-template-columns: 64px 1fr 24px;
  gap: 14px;
  align-items: center;
  h1 {
    font-size: ${(p) => p.theme.tokens.size.title};
    font-weight: 600;
    overflow-wrap: anywhere;
  }
  p {
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
  }
`;
const Strength = styled.div`
  display: grid;
  grid-template-columns: auto 1fr 34px 12px;
  gap: 8px;
  align-items: center;
  input {
    text-align: right;
  }
`;

type View = "picture" | "health" | "tools" | "stress";
const nouns: Record<Kind, string> = { look: "Look", lut: "LUT", preset: "Preset" };

interface KindProps {
  readonly kind: Kind;
  readonly id: number;
  readonly member: string;
  readonly picture: Picture | undefined;
  readonly onHealth: () => void;
}

/** What only entries of this kind have. */
function KindFacts({ kind, id, member, picture, onHealth }: KindProps) {
  const { data: lut } = useQuery({ ...lutQuery(id), enabled: kind === "lut" });
  const { data: look } = useQuery({ ...lookQuery(id), enabled: kind === "look" });
  const { data: preset } = useQuery({ ...presetQuery(id), enabled: kind === "preset" });
  if (lut) return <LutFacts lut={lut} onHealth={onHealth} />;
  if (look) return <LookFacts look={look} member={member} picture={picture} />;
  return preset ? <PresetFacts preset={preset} /> : null;
}

function Delete({ entry }: { entry: Described }) {
  const remove = useDeleteEntry();
  const navigate = useNavigate();
  const { kind, id, name } = entry;
  const leave = () => void navigate("/shelf", { state: { gone: { kind, id, name } } });
  const start = () => remove.mutate({ kind, id, onGone: leave });
  useActions([{ name: "Delete from the Shelf", run: start }]);
  return (
    <Block>
      <Secondary onPress={start}>Delete from the Shelf</Secondary>
      {remove.error && <Notice>{wordsFor(remove.error)}</Notice>}
    </Block>
  );
}

/** One entry tried on a picture at any strength, what is known of it, and what can be taken away from it. */
export function EntryPage() {
  const params = useParams();
  const kind: Kind = params.kind === "lut" || params.kind === "preset" ? params.kind : "look";
  const id = Number(params.id);
  const { pictures, chosen, choose } = usePictureChoice();
  const [strength, setStrength] = useState(1);
  const [dragging, setDragging] = useState(false);
  const [wiping, setWiping] = useState(true);
  const [search, setSearch] = useSearchParams();
  const [view, setView] = useState<View>(kind === "look" && search.get("page") === "stress" ? "stress" : "picture");
  const [wipe, setWipe] = useState<Wipe>({ x: 0.5, y: 0.5, angle: 6 });
  const { data: entry, error: missing } = useQuery(described(kind, id));
  const { data: lut } = useQuery({ ...lutQuery(id), enabled: kind === "lut" });
  const mayDesign = useMay("design");
  const { data: reviews } = useQuery(reviewsQuery(kind, id));
  const [picking, setPicking] = useState(false);
  const [place, setPlace] = useState<Point | null>(null);
  const [shown, setShown] = useState<VersionsShown>({ version: null, beside: null });
  const { data: draft } = useQuery({ ...lookQuery(id), enabled: kind === "look" });
  const { data: past } = useQuery(versionLook(id, kind === "look" ? shown.version : null));
  useLive();
  const look = shown.version === null ? draft?.draft : past;
  const wanted = memberIn(search);
  const member = look?.family?.some((one) => one.name === wanted) ? wanted : "";
  const setMember = (name: string) => setSearch((now) => withMemberIn(now, name), { replace: true });
  const tried = useTry(id, chosen, strength, dragging, shown, member);

  if (missing instanceof Problem && missing.status === 404) {
    return (
      <Columns>
        <div />
        <Side>
          <Notice>{missing.message}</Notice>
          <Link to="/shelf">To the Shelf</Link>
        </Side>
      </Columns>
    );
  }
  return (
    <Columns>
      <Field selectedKey={view} onSelectionChange={(key) => setView(key as View)} aria-label="Picture">
        <Head>
          <Pages aria-label="Pages of the entry">
            <Page id="picture">Picture</Page>
            {kind === "look" && <Page id="stress">Where it breaks</Page>}
            {kind === "lut" && <Page id="health">Health</Page>}
            {kind === "lut" && mayDesign && <Page id="tools">Tools</Page>}
          </Pages>
          {view === "picture" && <Toggle label="Wipe" showLabel isOn={wiping} onChange={setWiping} />}
          <SurroundChoice />
        </Head>
        <Shown id="picture">
          <Compare
            before={tried.before}
            after={tried.after}
            drawn={tried.drawn}
            wipe={wiping ? wipe : null}
            onWipe={setWipe}
            label={`${chosen?.name ?? "No picture"} through ${named(entry?.name ?? "it", member)}`}
            over={chosen && <PinMarks pins={reviews?.pins ?? []} picture={chosen.id} asking={picking ? place : null} />}
            {...(picking ? { onPick: (_: unknown, at: Point) => setPlace(at) } : {})}
          />
        </Shown>
        <Shown id="stress">{entry && <StressView key={id} entry={entry} />}</Shown>
        <Shown id="health">{lut && <HealthView key={id} lut={lut} picture={chosen} />}</Shown>
        <Shown id="tools">{lut && <ToolsView key={id} lut={lut} picture={chosen} />}</Shown>
        <Discs aria-label="Pictures">
          {pictures.map((picture) => (
            <button
              key={picture.id}
              type="button"
              onClick={() => choose(picture.id)}
              aria-label={picture.name}
              aria-current={picture.id === chosen?.id || undefined}
              title={picture.name}
            >
              <Disc
                $size={48}
                $on={picture.id === chosen?.id}
                style={{ backgroundImage: `url(${discOf(picture.id, picture.state)})` }}
              />
            </button>
          ))}
        </Discs>
      </Field>
      <Side>
        <Title>
          <Fingerprint $size={64} src={`/api/${kind}s/${String(id)}/fingerprint.png?size=128`} alt="Fingerprint" />
          <div>
            <h1>{entry?.name}</h1>
            <p>
              {nouns[kind]}
              {entry?.by && `, ${entry.by}`}
            </p>
            {entry && <WhoSees kind={entry.kind} id={entry.id} mayChange={entry.may_change} />}
          </div>
          {entry && <Star entry={entry} />}
        </Title>
        <Strength>
          <span>Strength</span>
          <StrengthBar
            label="Strength"
            value={strength}
            onChange={(value) => {
              setDragging(true);
              setStrength(value);
            }}
            onChangeEnd={() => setDragging(false)}
          />
          <NumberBox
            label="Strength, percent"
            value={strength * 100}
            low={0}
            high={100}
            step={1}
            digits={0}
            neutral={100}
            onChange={(value) => setStrength(value / 100)}
          />
          <span>%</span>
        </Strength>
        {tried.problem && <Notice>{tried.problem}</Notice>}
        {look && <Family look={look} member={member} onMember={setMember} />}
        {entry && mayDesign && kind !== "preset" && (
          <div>
            <PutIntoLook
              entry={entry}
              member={member}
              {...(kind === "look" ? { button: <Secondary>Put into a look…</Secondary> } : {})}
            />
          </div>
        )}
        <KindFacts kind={kind} id={id} member={member} picture={chosen} onHealth={() => setView("health")} />
        {entry && <CharacterFacts entry={entry} />}
        {entry && <Versions entry={entry} shown={shown} onShown={setShown} />}
        {entry && <ReviewBlock entry={entry} />}
        {entry && (
          <Pins
            entry={entry}
            picture={chosen?.id}
            place={picking ? place : null}
            picking={picking}
            onPicking={(on) => {
              setPicking(on);
              setPlace(null);
            }}
          />
        )}
        <GuestsSay entry={id} />
        {entry && <EntryWords entry={entry} />}
        {chosen && mayDesign && (
          <GradedPicture key={chosen.id} entry={id} member={member} picture={chosen} strength={strength} />
        )}
        {entry && mayDesign && <TakeFile entry={entry} version={shown.version} member={member} />}
        {kind === "lut" && mayDesign && <AsSteps key={id} lut={id} />}
        {entry && <Uses entry={entry} />}
        {entry && <ActivityList entry={entry} />}
        {entry?.may_change && <Delete entry={entry} />}
      </Side>
    </Columns>
  );
}
