import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../api/client";
import { projects as projectsQuery, useMakeProject } from "../api/projects";
import { session, useMay } from "../api/session";
import type { ProjectLine } from "../api/types";
import { useKept } from "../browser/kept";
import { Primary } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { Picker } from "../kit/Picker";
import { TextBox } from "../kit/TextBox";
import { withoutMarks } from "../kit/PlainList";
import { ProjectRow } from "../media/ProjectRow";
import { EncodingPicker } from "../media/EncodingPicker";

const Page = styled.main`
  overflow-y: auto;
  padding: 18px 24px 40px;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 280px;
  gap: 32px;
  align-content: start;
  background: ${(p) => p.theme.tokens.paper};
  h1 {
    font-size: ${(p) => p.theme.tokens.size.title};
    font-weight: 600;
    margin-bottom: 14px;
  }
  p {
    color: ${(p) => p.theme.tokens.soft};
  }
`;
const Head = styled.header`
  display: flex;
  align-items: center;
  gap: 14px;
  margin-bottom: 14px;
  h1 {
    margin: 0 auto 0 0;
  }
  > div:nth-child(2) {
    width: 270px;
  }
`;
const List = styled.ul`
  ${withoutMarks}
  border-top: 1px solid ${(p) => p.theme.tokens.line};
`;
const Form = styled.form`
  display: grid;
  gap: 12px;
  align-content: start;
  h2 {
    font-weight: 600;
  }
`;

function NewProject() {
  const make = useMakeProject();
  const navigate = useNavigate();
  const [name, setName] = useState("");
  const [code, setCode] = useState("");
  const { data: here } = useQuery(session);
  const [chosen, setDelivery] = useState<string | null>(null);
  const delivery = chosen ?? here?.delivery ?? "rec709";
  return (
    <Form
      aria-label="A new project"
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim())
          make.mutate({ name, code, delivery }, { onSuccess: (made) => void navigate(`/projects/${String(made.id)}`) });
      }}
    >
      <h2>A new project</h2>
      <TextBox label="Name" value={name} onChange={setName} maxLength={120} />
      <TextBox label="Code" value={code} onChange={setCode} maxLength={20} placeholder="TSF" />
      <EncodingPicker label="Delivered in" value={delivery} onChange={setDelivery} />
      <Primary type="submit" isDisabled={name.trim() === ""} isPending={make.isPending}>
        Make it
      </Primary>
      {make.error && <Notice>{wordsFor(make.error)}</Notice>}
    </Form>
  );
}

type Order = "worked" | "name" | "created";
const orders: readonly { id: Order; name: string }[] = [
  { id: "worked", name: "Worked at last" },
  { id: "name", name: "By name" },
  { id: "created", name: "Newest first" },
];
const readOrder = (found: unknown): Order => orders.find((one) => one.id === found)?.id ?? "worked";

/** Those in which every word stands somewhere: in the name, the code, or who works there. */
export function arrangeProjects(all: readonly ProjectLine[], search: string, order: Order): readonly ProjectLine[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const found = all.filter((one) => {
    const text = [one.name, one.code, ...one.people].join(" ").toLowerCase();
    return words.every((word) => text.includes(word));
  });
  return found.sort((a, b) =>
    order === "name" ? a.name.localeCompare(b.name) : Date.parse(b[order]) - Date.parse(a[order]),
  );
}

/** Every project that the person may see, each with a strip of its shots. */
export function ProjectsPage() {
  const { data: projects, error } = useQuery(projectsQuery);
  const mayDesign = useMay("design");
  const [search, setSearch] = useState("");
  const [order, setOrder] = useKept("projects-order", readOrder);
  const shown = useMemo(() => arrangeProjects(projects ?? [], search, order), [projects, search, order]);
  return (
    <Page>
      <section>
        <Head>
          <h1>Projects</h1>
          <TextBox
            label="Find a project"
            hideLabel
            type="search"
            value={search}
            onChange={setSearch}
            placeholder="A name, a code, or who works there"
          />
          <Picker
            label="Order"
            hideLabel
            value={order}
            options={orders}
            onChange={(next) => setOrder(readOrder(next))}
          />
        </Head>
        {error && <Notice>{wordsFor(error)}</Notice>}
        {projects?.length === 0 && (
          <p>There is no project yet.{mayDesign ? " Make one at the right." : " A designer can make the first one."}</p>
        )}
        {projects && projects.length > 0 && shown.length === 0 && <p>No project has all of these words.</p>}
        {shown.length > 0 && (
          <List aria-label="Projects">
            {shown.map((one) => (
              <li key={one.id}>
                <ProjectRow project={one} />
              </li>
            ))}
          </List>
        )}
      </section>
      {mayDesign && <NewProject />}
    </Page>
  );
}
