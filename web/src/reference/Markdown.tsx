import ReactMarkdown from "react-markdown";
import gfm from "remark-gfm";

/** A document of ours, with its tables; loaded only where one is read. */
export default function Markdown({ text }: { text: string }) {
  return <ReactMarkdown remarkPlugins={[gfm]}>{text}</ReactMarkdown>;
}
