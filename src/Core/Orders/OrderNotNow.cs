namespace YardRelay.Core.Orders;

/// <summary>Why a swap cannot have an order as it stands.</summary>
/// <param name="Why">Half a sentence, which follows "it cannot be ordered: ".</param>
public sealed record OrderNotNow(string Why) : Problem("order.not-now", $"It cannot be ordered: {Why}.");
