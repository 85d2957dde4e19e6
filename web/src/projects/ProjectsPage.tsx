import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../api/client";
import { encodings as encodingsQuery } from "../api/encodings";
import { projects as projectsQuery, useMakeProject } from "../api/projects";
import { useMay } from "../api/session";
import { Primary } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { Picker } from "../kit/Picker";
import { TextBox } from "../kit/TextBox";
import { withoutMarks } from "../kit/PlainList";

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
const List = styled.ul`
  ${withoutMarks}
  border-top: 1px solid ${(p) => p.theme.tokens.line};
  a {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 90px 110px;
    gap: 16px;
    padding: 10px 4px;
    color: inherit;
    border-bottom: 1px solid ${(p) => p.theme.tokens.line};
  }
  a:hover {
    background: ${(p) => p.theme.tokens.hush};
  }
  b {
    display: block;
    font-weight: 600;
    color: ${(p) => p.theme.tokens.ink};
    overflow-wrap: anywhere;
  }
  small,
  a > span {
    color: ${(p) => p.theme.tokens.soft};
  }
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
  const { data: encodings = [] } = useQuery(encodingsQuery);
  const make = useMakeProject();
  const navigate = useNavigate();
  const [name, setName] = useState("");
  const [code, setCode] = useState("");
  const [delivery, setDelivery] = useState("rec709");
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
      <Picker
        label="Delivered in"
        value={delivery}
        options={encodings.map((one) => ({ id: one.id, name: one.name }))}
        onChange={setDelivery}
      />
      <Primary type="submit" isDisabled={name.trim() === ""} isPending={make.isPending}>
        Make it
      </Primary>
      {make.error && <Notice>{wordsFor(make.error)}</Notice>}
    </Form>
  );
}

/** Every project that the person may see. */
export function ProjectsPage() {
  const { data: projects, error } = useQuery(projectsQuery);
  const mayDesign = useMay("design");
  return (
    <Page>
      <section>
        <h1>Projects</h1>
        {error && <Notice>{wordsFor(error)}</Notice>}
        {projects?.length === 0 && (
          <p>There is no project yet.{mayDesign ? " Make one at the right." : " A designer can make the first one."}</p>
        )}
        {projects && projects.length > 0 && (
          <List aria-label="Projects">
            {projects.map((one) => (
              <li key={one.id}>
                <Link to={`/projects/${String(one.id)}`}>
                  <span>
                    <b>{one.name}</b>
                    <small>{[one.code, one.by, one.closed ? "closed" : ""].filter(Boolean).join(", ")}</small>
                  </span>
                  <span>
                    {one.shots} {one.shots === 1 ? "shot" : "shots"}
                  </span>
                  <span>{one.created.slice(0, 10)}</span>
                </Link>
              </li>
            ))}
          </List>
        )}
      </section>
      {mayDesign && <NewProject />}
    </Page>
  );
}
