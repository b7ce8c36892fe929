using YardRelay.Core;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Persons;

internal sealed record NoTimeToOffer() : ServiceProblem(
    "offer.none",
    "You have no time yet that you could offer. You will be told.", 409);

internal sealed record NoTimeToGive() : ServiceProblem(
    "offer.none",
    "You have no time yet that you could give. You will be told.", 409);

internal sealed record OfferGoneProblem() : ServiceProblem(
    "offer.gone",
    "That time is not offered any more. Look at what is free now.", 409);

internal sealed record AskedTooMany(int MostAsked) : ServiceProblem(
    "exchange.many",
    $"You have asked {MostAsked} people already. Take one question back, or wait for an answer.", 409);

internal sealed record AskedByTooMany() : ServiceProblem(
    "exchange.many",
    "So many have asked for that time that no more can. Choose another.", 409);

internal sealed record ExchangeOverProblem() : ServiceProblem(
    "exchange.over",
    "That question is answered already.", 409);

internal sealed record ExchangeOwnProblem() : ServiceProblem(
    "exchange.own",
    "You asked; the other has to agree.", 409);

internal sealed record ExchangeGoneProblem() : ServiceProblem(
    "exchange.gone",
    "One of the two times does not hold any more, so there is nothing to exchange. You keep yours.", 409);

internal sealed record ExchangeMisfitProblem() : ServiceProblem(
    "exchange.misfit",
    "The plan has changed, and the two times do not fit both any more. You keep yours.", 409);

internal sealed record PersonNobodyProblem() : ServiceProblem(
    "person.nobody",
    "Nobody is there yet who could answer. Try again later.", 409);

internal sealed record PersonLanguageProblem(string Language, string Languages) : Problem(
    "person.language",
    $"'{Language}' is no language of this page. It has {Languages}.");

internal sealed record CarryListOverProblem() : ServiceProblem(
    "carry-list.over",
    "Your files have moved to the new computer already. Say what is missing, and somebody looks after it.", 409);

internal sealed record PersonWordsProblem(int MostWords) : Problem(
    "person.words",
    $"Say it in 1 to {MostWords} characters.");

internal sealed record PersonKindProblem(string Kind) : Problem(
    "person.kind",
    $"'{Kind}' cannot be said here. Use question, time, missing, folder or erasure.");

internal sealed record RefusalSignedProblem() : ServiceProblem(
    "refusal.signed",
    "You have accepted already. Ask a question instead; somebody opens it again.", 409);

internal sealed record PersonPassphraseProblem(int LeastPassphrase, int MostPassphrase) : Problem(
    "person.passphrase",
    $"A passphrase has {LeastPassphrase} to {MostPassphrase} characters; four or five words that only you would put "
        + $"together are good.");

internal sealed record PersonOpenProblem() : ServiceProblem(
    "person.open",
    "Your files are not sealed, so there is nothing to open with a passphrase.", 409);

internal sealed record PersonPassphraseLateProblem() : ServiceProblem(
    "person.passphrase-late",
    "Your files are on the new computer already; the passphrase cannot be changed any more.", 409);

internal sealed record OrderKindProblem(string Kind, string OwnOrders) : Problem(
    "order.kind",
    $"'{Kind}' is nothing that you can start. Use {OwnOrders}.");

internal sealed record LinkNothingProblem() : ServiceProblem(
    "link.nothing",
    "This link opens nothing. It may have been opened on another device, withdrawn, or cut off on the way. Ask for a new one.", 404);

internal sealed record LinkMailProblem() : Problem(
    "link.mail",
    "Write the address that your mails from us went to.");

internal sealed record LinkNoMailProblem() : ServiceProblem(
    "link.no-mail",
    "No mail is sent from here. Ask whoever sent you the link for a new one.", 409);

internal sealed record LinkWayProblem(string Way) : Problem(
    "link.way",
    $"'{Way}' is no way of a link. Say mail, to the address on record, or paper, to hand it over.");

internal sealed record LinkNoticesOffProblem() : ServiceProblem(
    "link.notices-off",
    "People of this refresh are told nothing by mail yet. Switch notices on, or make a link to hand over.", 409);

internal sealed record LinkNoAddressProblem(string Name) : ServiceProblem(
    "link.no-address",
    $"{Name} has no mail address on record. Make a link to hand over, or add the address to the roster.", 409);

internal sealed record LinkOfStaffProblem(string Staff) : ServiceProblem(
    "link.staff",
    $"{Staff} is signed in on this device, and a personal page is not opened as somebody else. Do it as yourself in the console, or sign "
        + "out there first and let the person open the link.", 409);

internal sealed record PersonNoSwapProblem() : ServiceProblem(
    "person.no-swap",
    "No change of a computer is planned for you.", 404);

internal sealed record SlotNoneProblem() : ServiceProblem(
    "slot.none",
    "Your time is not fixed yet, so there is nothing to change. You will be told.", 409);

internal sealed record WaitSpanProblem(int MostWaitDays) : Problem(
    "wait.span",
    $"Wait for a time within at most {MostWaitDays} days, from earlier to later.");

internal sealed record WaitPastProblem() : Problem(
    "wait.past",
    "That is over. Wait for a later time.");

internal sealed record WaitHasProblem() : ServiceProblem(
    "wait.has",
    "Your time lies there already, so there is nothing to wait for.", 409);
