using CsCheck;
using YardRelay.Core.Carrying;

namespace YardRelay.Core.Tests.Carrying;

public sealed class AmountTests
{
    [Theory]
    [InlineData(0, "0 B"), InlineData(999, "999 B"), InlineData(1000, "1 kB"), InlineData(
        48_300, "48.3 kB"), InlineData(999_499, "999 kB"), InlineData(999_950, "1 MB"), InlineData(
        6_140_000_000, "6.1 GB"), InlineData(99_950_000, "100 MB")]
    public void Bytes_are_written_in_decimal_units_with_at_most_one_decimal(long bytes, string text) => ByteText.Of(bytes).ShouldBe(text);

    [Fact]
    public void Any_amount_of_bytes_is_written_in_at_most_seven_characters_and_near_its_value() =>
        Gen.Long[0, 900_000_000_000_000_000].Sample(bytes =>
        {
            var text = ByteText.Of(bytes).Split(' ');
            (text[0].Length + text[1].Length).ShouldBeLessThanOrEqualTo(7);
            var value = double.Parse(text[0], System.Globalization.CultureInfo.InvariantCulture) * Math.Pow(
                1000, Array.IndexOf(["B", "kB", "MB", "GB", "TB", "PB"], text[1]));
            Math.Abs(value - bytes).ShouldBeLessThanOrEqualTo(Math.Max(0.5, bytes * 0.051));
        });

    [Theory]
    [InlineData(0, "0 s"), InlineData(8.2, "9 s"), InlineData(89, "89 s"), InlineData(90, "2 min"), InlineData(180, "3 min"), InlineData(
        4800, "80 min"), InlineData(
        5400, "1 h 30 min"), InlineData(
        90_000, "25 h 00 min")]
    public void Times_are_written_as_somebody_who_waits_wants_them(double seconds, string text) =>
        ByteText.Of(TimeSpan.FromSeconds(seconds)).ShouldBe(text);

    private static Gen<Amount> Some => Gen.Int[0, 9].Select(f => new Amount(f, f * 7));

    [Fact]
    public void A_file_that_is_missing_from_a_folders_account_is_unexplained_whatever_the_other_folders_say() =>
        Gen.Select(Some, Some, Some, Some, Some).Sample((carried, leftOut, waived, open, lost) =>
        {
            var account = new FolderAccount(
                "D", carried + leftOut + waived + open + lost, carried, leftOut, waived, open, null, default, default);
            account.Unexplained.ShouldBe(open.Files + lost.Files);
            account.CarryAddsUp.ShouldBe(lost == Amount.None);
            var restored = account with
            {
                Old = carried,
                LeftOut = default,
                Waived = default,
                Open = default,
                InDepot = carried,
                OnNew = Amount.Least(carried, lost)
            };
            restored.Unexplained.ShouldBe((carried - Amount.Least(carried, lost)).Files);
            // Two folders that err in opposite ways add up, and are still both wrong.
            var more = new FolderAccount("E", carried, carried + lost, default, default, default, null, default, default);
            new[] { account, more }.Sum(f => f.Unexplained).ShouldBe(open.Files + (2 * lost.Files));
            FolderAccount.Total([account, more]).Old.ShouldBe(account.Old + more.Old);
        });
}
