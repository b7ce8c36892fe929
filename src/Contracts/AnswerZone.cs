namespace YardRelay.Contracts;

/// <summary>Which zone the times of an answer are in.</summary>
public static class AnswerZone
{
    /// <summary>Header of an answer: the IANA name of the zone that its times are in; left out: they are in UTC.</summary>
    public const string Header = "Yard-Zone";
}
