import styled from "styled-components";

/** Around what is typed of a chosen part. */
export const EditorBox = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0.375rem;
  textarea {
    width: 100%;
    min-height: 5rem;
    padding: 0.25rem 0.5rem;
    border: 1px solid var(--line);
    border-radius: 4px;
    background: var(--sheet);
    color: var(--ink);
    font: inherit;
    resize: vertical;
  }
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 0.375rem;
    align-items: center;
    justify-content: start;
  }
`;
