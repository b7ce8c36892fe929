using System.Text.Json.Nodes;
using CsCheck;
using YardRelay.Core.Ledger;

namespace YardRelay.Core.Tests.Ledger;

public sealed class LedgerTests
{
    private static List<LedgerEntry> Chain(int entries)
    {
        var (head, list) = (LedgerHead.Empty, new List<LedgerEntry>());
        for (var i = 0; i < entries; i++)
        {
            var entry = LedgerChain.Next(
                head,
                "autumn",
                new DateTimeOffset(2026, 11, 25, 9, 0, i, TimeSpan.Zero).AddTicks(1_234_560),
                "kit",
                "step.done",
                new() { ["step"] = $"s{i}", ["files"] = i });
            list.Add(entry);
            head = new(entry.Number, entry.Sha256);
        }
        return list;
    }

    [Fact]
    public void Any_changed_missing_reordered_or_inserted_entry_is_found() =>
        Gen.Select(Gen.Int[3, 12], Gen.Int[0, 1000], Gen.Int[0, 4]).Sample((count, at, how) =>
        {
            var chain = Chain(count);
            LedgerChain.Check(chain, null).ShouldBeEmpty();
            var i = at % count;
            switch (how)
            {
                case 0:
                    chain[i] = chain[i] with { Json = chain[i].Json.Replace("\"step\":\"s", "\"step\":\"x", StringComparison.Ordinal) };
                    break;
                case 1:
                    var json = chain[i].Json.Replace("kit", "eve", StringComparison.Ordinal);
                    chain[i] = chain[i] with { Json = json, Sha256 = LedgerChain.Digest(json) };
                    if (i == count - 1) return;
                    break;
                case 2: if (i == count - 1) return; chain.RemoveAt(i); break;
                case 3: if (i == 0) return; (chain[i], chain[i - 1]) = (chain[i - 1], chain[i]); break;
                default: chain.Insert(i, chain[i]); break;
            }
            LedgerChain.Check(chain, null).ShouldNotBeEmpty();
        }, iter: 300);

    [Fact]
    public void A_head_kept_outside_shows_a_tail_that_was_cut_off_or_replaced()
    {
        var chain = Chain(5);
        var head = new LedgerHead(5, chain[4].Sha256);
        LedgerChain.Check(chain, LedgerHead.TryParse(head.ToString())).ShouldBeEmpty();
        LedgerChain.Check(chain[..3], head).Single().What.ShouldContain("cut off");
        LedgerChain.Check([], head).Single().What.ShouldContain("cut off");
        var other = chain[4].Json.Replace("s4", "s9", StringComparison.Ordinal);
        LedgerChain.Check([.. chain[..4], new(5, other, LedgerChain.Digest(other))], head).Single().What.ShouldContain("replaced");
    }

    [Fact]
    public void Canonical_json_is_that_of_RFC_8785()
    {
        // Section 3.2.3's example of sorting and section 3.2.2.2's escapes, without fractions, which the ledger has none of.
        var node = JsonNode.Parse(
            """
            {"\u20ac":"Euro Sign","\r":"Carriage Return","\ufb33":"Hebrew Letter Dalet With Dagesh","1":"One",
             "\ud83d\ude00":"Emoji: Grinning Face","\u0080":"Control","\u00f6":"Latin Small Letter O With Diaeresis"}
            """);
        CanonicalJson.Of(node)
            .ShouldBe(
                "{\"\\r\":\"Carriage Return\",\"1\":\"One\",\"\u0080\":\"Control\",\"ö\":\"Latin Small Letter O With "
                    + "Diaeresis\",\"€\":\"Euro Sign\",\"😀\":\"Emoji: Grinning Face\","
                    + "\"\uFB33\":\"Hebrew Letter Dalet With Dagesh\"}");
        CanonicalJson.Of(JsonNode.Parse("""[56, true, null, "\u20ac$\u000F\u000aA'\u0042\u0022\u005c\\\"\/"]"""))
            .ShouldBe("[56,true,null,\"€$\\u000f\\nA'B\\\"\\\\\\\\\\\"/\"]");
        Should.Throw<ArgumentException>(() => CanonicalJson.Of(JsonNode.Parse("[1.5]")));
    }

    [Fact]
    public void Instants_stand_in_microseconds_as_strings() => Chain(1)[0].Json.ShouldContain("\"at\":\"2026-11-25T09:00:00.123456Z\"");
}
