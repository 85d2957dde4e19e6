import { useQuery } from "@tanstack/react-query";
import { CircleAlert, CircleCheck, Eye } from "lucide-react";
import { useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { health as healthQuery } from "../../api/luts";
import { useMay } from "../../api/session";
import type { Finding, Lut, Picture, ToolChoice } from "../../api/types";
import { Secondary } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Trial } from "../tools/Trial";
import { GreyRamp, RoughMap } from "./graphs";
import { LatticeCube } from "./LatticeCube";
import { withoutMarks } from "../../kit/PlainList";
import { ReportPage } from "../ReportPage";

const COLUMNS = "minmax(0, 1.15fr) minmax(0, 1fr)";
const List = styled.ul`
  ${withoutMarks}
  display: grid;
  li {
    display: grid;
    grid-template-columns: 20px minmax(0, 1fr) auto;
    gap: 2px 10px;
    align-items: start;
    padding: 9px 0;
    border-bottom: 1px solid ${(p) => p.theme.tokens.hush};
  }
  svg {
    width: 17px;
    height: 17px;
    margin-top: 1px;
  }
  b {
    font-weight: 600;
  }
  i {
    font-style: normal;
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
  }
  p {
    margin: 0;
  }
  small {
    display: block;
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
  }
  [data-level="bad"] > svg,
  [data-level="notice"] > svg {
    color: ${(p) => p.theme.tokens.caution};
  }
`;
const Charts = styled.div`
  display: grid;
  gap: 20px;
  align-content: start;
  grid-template-columns: minmax(0, 1fr);
  h3 {
    font-size: ${(p) => p.theme.tokens.size.small};
    font-weight: 500;
    color: ${(p) => p.theme.tokens.soft};
    margin-bottom: 6px;
  }
`;
const Pair = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 18px;
`;
const levels = { fine: "fine", notice: "worth a look", bad: "a fault" } as const;
const repaired: Record<string, string> = {
  smooth: "Smoothed",
  unswap: "Channels in order",
  "full-range": "Full range",
  extend: "Range extended",
  resize: "At 33",
};
const repairs: Record<string, string> = {
  smooth: "Smooth it",
  unswap: "Put channels in order",
  "full-range": "Make it full range",
  extend: "Extend its range",
  resize: "Resize it to 33",
};

function Line({ finding, onRepair }: { finding: Finding; onRepair: (repair: string) => void }) {
  const mayDesign = useMay("design");
  const Icon = finding.level === "fine" ? CircleCheck : finding.level === "notice" ? Eye : CircleAlert;
  return (
    <li data-level={finding.level}>
      <Icon aria-hidden />
      <div>
        <p>
          <b>{finding.title}</b> <i>{levels[finding.level as keyof typeof levels]}</i>
        </p>
        <p>{finding.sentence}</p>
        {finding.advice && finding.level !== "fine" && <small>{finding.advice}</small>}
      </div>
      {finding.repair && mayDesign && (
        <Secondary onPress={() => onRepair(finding.repair ?? "")}>
          {repairs[finding.repair] ?? finding.repair}
        </Secondary>
      )}
    </li>
  );
}

/** The health report: each finding with its number and what to do, graphs, and repairs tried on the picture before they are kept. */
export function HealthView({ lut, picture }: { lut: Lut; picture: Picture | undefined }) {
  const { data, error } = useQuery(healthQuery(lut.id));
  const [repair, setRepair] = useState<string | null>(null);
  if (error)
    return (
      <ReportPage $columns={COLUMNS}>
        <Notice>{wordsFor(error)}</Notice>
      </ReportPage>
    );
  if (!data)
    return (
      <ReportPage $columns={COLUMNS}>
        <p>Examining…</p>
      </ReportPage>
    );
  if (repair) {
    const choice: ToolChoice = { tool: repair, amount: 0.5, other: null, size: 33, low: 0, high: 1 };
    return (
      <Trial
        lut={lut}
        choice={choice}
        title={repaired[repair] ?? repair}
        picture={picture}
        onClose={() => setRepair(null)}
      />
    );
  }
  const order = { bad: 0, notice: 1, fine: 2 } as const;
  const sorted = [...data.findings].sort(
    (a, b) => order[a.level as keyof typeof order] - order[b.level as keyof typeof order],
  );
  return (
    <ReportPage $columns={COLUMNS}>
      <section aria-label="Findings">
        <h2>{data.level === "fine" ? "Healthy" : `Found: ${data.summary}`}</h2>
        <List>
          {sorted.map((finding) => (
            <Line key={finding.id} finding={finding} onRepair={setRepair} />
          ))}
        </List>
      </section>
      <Charts>
        <div>
          <h3>What grey becomes</h3>
          <GreyRamp ramp={data.graphs.ramp} />
        </div>
        <Pair>
          <div>
            <h3>Where colours go</h3>
            <LatticeCube graphs={data.graphs} />
          </div>
          <div>
            <h3>Unevenness</h3>
            <RoughMap rough={data.graphs.rough} />
          </div>
        </Pair>
      </Charts>
    </ReportPage>
  );
}
