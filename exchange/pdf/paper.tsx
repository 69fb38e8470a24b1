import { Image, Path, StyleSheet, Svg, Text, View } from "@react-pdf/renderer";

const ink = "#15242B";
const quiet = "#4A5A60";
const rule = "#C9CFC4";
const text = ["Commissioner", "Commissioner Ext"];
const mono = ["Spline", "Spline Ext"];
const display = ["Bricolage", "Bricolage Ext"];

/** What all papers of the house look like. */
export const s = StyleSheet.create({
  page: {
    paddingTop: 44,
    paddingBottom: 64,
    paddingHorizontal: 46,
    fontFamily: text as never,
    fontSize: 9,
    color: ink,
    lineHeight: 1.35,
  },
  top: {
    flexDirection: "row",
    justifyContent: "space-between",
    alignItems: "flex-start",
    borderBottomWidth: 2,
    borderColor: ink,
    paddingBottom: 10,
  },
  brand: { flexDirection: "row", alignItems: "center", gap: 7, marginBottom: 4 },
  logo: { maxHeight: 40, maxWidth: 130, objectFit: "contain" },
  company: { fontFamily: display as never, fontSize: 15 },
  title: { fontFamily: display as never, fontSize: 20, textAlign: "right", lineHeight: 1.1 },
  quiet: { color: quiet },
  blocks: { flexDirection: "row", gap: 22, marginTop: 16, marginBottom: 14 },
  block: { flex: 1 },
  label: { color: quiet, fontSize: 8, marginBottom: 2 },
  bold: { fontWeight: 700 },
  facts: {
    flexDirection: "row",
    borderTopWidth: 1,
    borderBottomWidth: 1,
    borderColor: rule,
    paddingVertical: 6,
    marginBottom: 14,
    gap: 22,
  },
  head: { flexDirection: "row", borderBottomWidth: 1.5, borderColor: ink, paddingBottom: 3, color: quiet, fontSize: 8 },
  row: { flexDirection: "row", borderBottomWidth: 0.6, borderColor: rule, paddingVertical: 5 },
  n: { width: 18 },
  what: { flex: 1, paddingRight: 8 },
  num: { fontFamily: mono as never, fontSize: 8.5, textAlign: "right" },
  qty: { width: 74 },
  due: { width: 66, textAlign: "right" },
  price: { width: 66 },
  net: { width: 72 },
  rate: { width: 44 },
  codes: { fontFamily: mono as never, fontSize: 7.5, color: quiet },
  totals: { marginTop: 10, marginLeft: "auto", width: 236 },
  total: { flexDirection: "row", justifyContent: "space-between", paddingVertical: 2 },
  grand: { borderTopWidth: 1.5, borderColor: ink, marginTop: 3, paddingTop: 4, fontWeight: 700, fontSize: 11 },
  note: { marginTop: 16, borderLeftWidth: 2, borderColor: ink, paddingLeft: 9 },
  foot: {
    position: "absolute",
    top: 796,
    left: 46,
    right: 46,
    borderTopWidth: 0.6,
    borderColor: rule,
    paddingTop: 6,
    flexDirection: "row",
    justifyContent: "space-between",
    color: quiet,
    fontSize: 7.5,
  },
});

function Mark() {
  return (
    <Svg width={26} height={20} viewBox="0 0 26 20">
      {[3, 8, 13, 18].map((x) => (
        <Path key={x} d={`M${x + 2} 2 L${x} 18`} stroke={ink} strokeWidth={2.2} />
      ))}
      <Path d="M0 15 L25 4" stroke="#8A6A12" strokeWidth={2.2} />
    </Svg>
  );
}

export function Lines({ title, lines }: { title: string; lines: string[] }) {
  const [first, ...rest] = lines.filter(Boolean);
  return (
    <View style={s.block}>
      <Text style={s.label}>{title}</Text>
      <Text style={s.bold}>{first ?? "–"}</Text>
      {rest.map((l) => (
        <Text key={l}>{l}</Text>
      ))}
    </View>
  );
}

/** The company's own sign: a PNG or JPEG picture. */
export interface Logo {
  type: string;
  bytes: Buffer;
}

/** Who writes, what the paper is, and of which day. */
export function Letterhead({
  company,
  title,
  day,
  logo,
}: {
  company: { name: string; address: string };
  title: string;
  day: string;
  logo?: Logo | null;
}) {
  return (
    <View style={s.top}>
      <View>
        <View style={s.brand}>
          {logo ? (
            <Image
              style={s.logo}
              src={{ data: Buffer.from(logo.bytes), format: logo.type === "image/png" ? "png" : "jpg" }}
            />
          ) : (
            <Mark />
          )}
          <Text style={s.company}>{company.name}</Text>
        </View>
        {company.address.split("\n").map((l) => (
          <Text key={l} style={s.quiet}>
            {l}
          </Text>
        ))}
      </View>
      <View style={{ alignItems: "flex-end" }}>
        <Text style={s.title}>{title}</Text>
        <Text style={[s.quiet, { marginTop: 3 }]}>{day}</Text>
      </View>
    </View>
  );
}
