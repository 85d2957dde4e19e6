import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { beginning as beginningQuery, useBegin, useSetDelivery, type Taken } from "../api/beginning";
import { wordsFor } from "../api/client";
import { studio as studioQuery, useChangeStudio } from "../api/team";
import { Primary } from "../kit/Button";
import { JobLine } from "../jobs/JobLine";
import { useOutcome } from "../jobs/useOutcome";
import { Check } from "../kit/Check";
import { Choice } from "../kit/Choice";
import { Notice } from "../kit/Notice";
import { EncodingPicker } from "../media/EncodingPicker";
import { SkinTolerance } from "../media/SkinTolerance";

const Page = styled.main`
  overflow-y: auto;
  height: 100%;
  background: ${(p) => p.theme.tokens.paper};
  display: grid;
  justify-content: center;
  align-content: start;
  padding: 44px 24px 60px;
`;
const Column = styled.div`
  width: min(560px, calc(100vw - 48px));
  display: grid;
  gap: 30px;
  h1 {
    font-size: 22px;
    font-weight: 600;
    letter-spacing: -0.01em;
    overflow-wrap: anywhere;
  }
  section {
    display: grid;
    gap: 8px;
    justify-items: start;
  }
  h2 {
    font-size: 14px;
    font-weight: 600;
  }
  p,
  small {
    color: ${(p) => p.theme.tokens.soft};
    max-width: 60ch;
  }
  small {
    display: block;
    font-size: ${(p) => p.theme.tokens.size.small};
  }
`;
const Offers = styled.div`
  display: grid;
  gap: 12px;
`;

/** Where the first admin says what the studio begins with. All of it can be said otherwise later, and taken later. */
export function BeginPage() {
  const navigate = useNavigate();
  const { data: offered, error } = useQuery(beginningQuery);
  const { data: studio } = useQuery(studioQuery);
  const change = useChangeStudio();
  const setDelivery = useSetDelivery();
  const begin = useBegin();
  const [taken, setTaken] = useState<Taken>({ pictures: true, looks: true, categories: true });
  const [job, setJob] = useState<number | null>(null);
  const { running } = useOutcome(job, ["pictures", "shelf", "presets", "start"], () => void navigate("/shelf"));
  const trouble = error ?? change.error ?? setDelivery.error ?? begin.error;
  const takesNothing = !taken.pictures && !taken.looks && !taken.categories;
  return (
    <Page>
      <Column>
        <div>
          <h1>{studio?.name ? `${studio.name} begins` : "A new studio"}</h1>
          <p>A few things to settle. Each can be said otherwise later, under Settings.</p>
        </div>
        {trouble && <Notice>{wordsFor(trouble)}</Notice>}
        {studio && (
          <>
            <section aria-label="Drafts">
              <h2>Who sees what is new?</h2>
              <Choice
                label="Who sees what is new?"
                value={studio.drafts}
                options={[
                  ["owner", "Only who made it"],
                  ["studio", "All who design"],
                ]}
                onChange={(drafts) => change.mutate({ drafts })}
              />
              <p>Until it is proposed, or shared with somebody. Viewers see what was proposed.</p>
            </section>
            <section aria-label="Deliveries">
              <h2>In what do pictures leave?</h2>
              <EncodingPicker
                label="New projects deliver in"
                hideLabel
                value={studio.delivery}
                onChange={(delivery) => setDelivery.mutate(delivery)}
              />
              <p>Every project may say another, and every delivery too.</p>
            </section>
            <section aria-label="Skin">
              <h2>How far may a look turn skin?</h2>
              <SkinTolerance label="How far may a look turn skin?" degrees={studio.skin} />
            </section>
          </>
        )}
        {offered && (
          <section aria-label="To begin with">
            <h2>What would you like to begin with?</h2>
            <Offers>
              <Check isOn={taken.pictures} onChange={(pictures) => setTaken({ ...taken, pictures })}>
                {offered.pictures} test pictures
                <small>Skin, sky, lamps, fog, deep shadow and a chart, in log, linear and display encodings.</small>
              </Check>
              <Check isOn={taken.looks} onChange={(looks) => setTaken({ ...taken, looks })}>
                {offered.looks} looks and {offered.presets} presets
                <small>Published, to be looked into and branched from. A note says why each is as it is.</small>
              </Check>
              <Check isOn={taken.categories} onChange={(categories) => setTaken({ ...taken, categories })}>
                {offered.categories} categories
                <small>Day, Night, Inside, Black and white, Prints, Cameras.</small>
              </Check>
            </Offers>
            {!offered.waits && <p>The studio has begun. What is there already stays as it is.</p>}
          </section>
        )}
        <JobLine id={job} what="Bringing it in" cancelled="Ended. What had come in is there." />
        {!running && (
          <div>
            <Primary
              isDisabled={!offered}
              isPending={begin.isPending}
              onPress={() =>
                begin.mutate(taken, { onSuccess: (made) => (made ? setJob(made.id) : void navigate("/start")) })
              }
            >
              {takesNothing ? "Begin with nothing" : "Begin"}
            </Primary>
          </div>
        )}
      </Column>
    </Page>
  );
}
