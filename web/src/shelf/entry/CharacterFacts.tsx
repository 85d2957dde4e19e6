import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import styled from "styled-components";
import { alike as alikeQuery, markOf } from "../../api/shelf";
import type { Described } from "../../api/types";
import { Fingerprint } from "../../kit/Disc";
import { Block, Small } from "./layout";
import { oneLine } from "../../kit/oneLine";
import { withoutMarks } from "../../kit/PlainList";

const Bars = styled.dl`
  margin: 0;
  display: grid;
  grid-template-columns: 58px 1fr 58px 44px;
  gap: 5px 8px;
  align-items: center;
  font-size: ${(p) => p.theme.tokens.size.small};
  dd {
    margin: 0;
  }
  code {
    text-align: right;
    font-family: ${(p) => p.theme.tokens.numbers};
  }
`;
const Rail = styled.dd`
  position: relative;
  height: 6px;
  border-radius: 3px;
  background: ${(p) => p.theme.tokens.hush};
  &::before {
    content: "";
    position: absolute;
    left: 50%;
    top: -2px;
    bottom: -2px;
    border-left: 1px solid ${(p) => p.theme.tokens.faint};
  }
  i {
    position: absolute;
    top: 0;
    bottom: 0;
    border-radius: 3px;
    background: ${(p) => p.theme.tokens.ink};
  }
`;
const Like = styled.ul`
  ${withoutMarks}
  display: grid;
  gap: 6px;
  a {
    display: grid;
    grid-template-columns: 30px 1fr auto;
    gap: 10px;
    align-items: center;
    color: inherit;
    text-decoration: none;
    &:hover b {
      text-decoration: underline;
    }
  }
  b {
    font-weight: 500;
    ${oneLine}
  }
`;

interface Measure {
  readonly low: string;
  readonly high: string;
  /** -1..1 along the rail. */
  readonly at: number;
  readonly told: string;
}

function measures({ character }: Described): readonly Measure[] {
  if (!character) return [];
  const { warmth, lightness, contrast, colour, black } = character;
  const signed = (value: number) => `${value < 0 ? "−" : "+"}${Math.abs(value).toFixed(1)}`;
  return [
    { low: "Cooler", high: "Warmer", at: warmth / 20, told: signed(warmth) },
    { low: "Darker", high: "Brighter", at: lightness / 20, told: signed(lightness) },
    { low: "Softer", high: "Harder", at: (contrast - 1) * 2, told: `×${contrast.toFixed(2)}` },
    { low: "Quieter", high: "Richer", at: (colour - 1) * 2, told: `×${colour.toFixed(2)}` },
    { low: "Deep", high: "Faded", at: black / 20, told: black.toFixed(1) },
  ];
}

/** What an entry does, in words and small bars, and what does most nearly the same. */
export function CharacterFacts({ entry }: { entry: Described }) {
  const { data: like = [] } = useQuery({ ...alikeQuery(entry.id), enabled: entry.character !== null });
  if (!entry.character) return null;
  const words = entry.character.words;
  return (
    <Block aria-label="Character">
      <h2>What it does</h2>
      <p>{words.length > 0 ? words.join(", ") : "Nothing that has a word: see how far it goes below."}</p>
      <Bars>
        {measures(entry).map(({ low, high, at, told }) => {
          const held = Math.max(-1, Math.min(1, at)) * 50;
          return [
            <dt key={`${high} low`}>{low}</dt>,
            <Rail key={high}>
              <i style={{ left: `${Math.min(50, 50 + held)}%`, width: `${Math.abs(held)}%` }} />
            </Rail>,
            <dt key={`${high} high`}>{high}</dt>,
            <dd key={`${high} told`}>
              <code>{told}</code>
            </dd>,
          ];
        })}
      </Bars>
      {like.length > 0 && (
        <>
          <Small>Most like it, with the mean difference (CIEDE2000)</Small>
          <Like aria-label="More like this">
            {like.slice(0, 5).map(({ entry: other, apart }) => (
              <li key={other.id}>
                <Link to={`/shelf/${other.kind}/${String(other.id)}`}>
                  <Fingerprint $size={30} src={markOf(other, 64)} alt="" />
                  <b>{other.name}</b>
                  <Small>{apart.toFixed(1)}</Small>
                </Link>
              </li>
            ))}
          </Like>
        </>
      )}
    </Block>
  );
}
