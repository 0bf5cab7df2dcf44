<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Plans\PlanChoice;
use Hafen\Audio\SampleFormat;
use Hafen\Edit\Insert\CutFrequency;
use Hafen\Headroom\Aim;
use Hafen\Headroom\AimFigure;
use Hafen\Headroom\Remedies;
use Hafen\Headroom\Remedy;
use Hafen\Headroom\Stage;
use Hafen\Headroom\Sweep;
use Hafen\Note\NoteControl;
use Hafen\Note\Ticks;
use Hafen\Printing\FreezeOptions;
use Hafen\Printing\RenderOptions;
use Hafen\Processor\ProcessorSpec;
use Hafen\Session\Automation\AutomationCurve;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\FaderScale;
use Hafen\Session\Insert\SplitBy;
use Hafen\Session\Insert\SplitChoice;
use Illuminate\Http\JsonResponse;

/** Rules and laws that hold in every session, for a front end that draws by them and repeats none. */
final class RulesController
{
    public function index(): JsonResponse
    {
        return new JsonResponse([
            'kinds' => self::byValue(ChannelKind::cases(), static fn (ChannelKind $kind): array => [
                'takesOutputs' => $kind->takesOutputs(),
                'takesSends' => $kind->takesSends(),
                'takesSource' => $kind->takesSource(),
                'canSend' => $kind->canSend(),
                'canBeGrouped' => $kind->canBeGrouped(),
                'canBeFrozen' => $kind->canBeFrozen(),
                'endsAtInterface' => $kind->endsAtInterface(),
            ]),
            'fader' => FaderScale::table(),
            'curve' => AutomationCurve::table(),
            'splits' => self::byValue(SplitBy::cases(), static fn (SplitBy $by): array => ['fewest' => $by->fewest(), 'most' => $by->most()]),
            'splitChoices' => array_map(static fn (SplitChoice $choice): array => [
                'id' => $choice->id, 'name' => $choice->name, 'purpose' => $choice->purpose, 'edit' => ['by' => $choice->by->value, 'branches' => $choice->branches],
            ], SplitChoice::all()),
            'ticksPerBeat' => Ticks::PER_BEAT,
            'controllers' => NoteControl::named(),
            'categories' => ProcessorSpec::CATEGORIES,
            'formats' => array_map(static fn (SampleFormat $format): array => ['id' => $format->value, 'label' => $format->label(), 'isFloat' => $format->isFloat()], RenderOptions::FORMATS),
            'freezeFormats' => array_map(static fn (SampleFormat $format): array => ['id' => $format->value, 'label' => $format->label()], FreezeOptions::FORMATS),
            'remedies' => array_map(static fn (Remedy $remedy): array => ['id' => $remedy->id(), 'title' => $remedy->title()], Remedies::standard()->listed()),
            'mostAmount' => PlanChoice::MOST,
            'aims' => array_map(static fn (AimFigure $figure): array => [
                'figure' => $figure->value, 'label' => $figure->label(), 'unit' => $figure->unit(), 'usual' => $figure->usualLevel(),
            ], AimFigure::cases()),
            'aimRange' => ['lowest' => Aim::LOWEST, 'highest' => Aim::HIGHEST],
            'fullScale' => Stage::FULL_SCALE,
            'sweep' => [
                'lowest' => Sweep::LOWEST, 'highest' => Sweep::HIGHEST, 'from' => Sweep::FROM, 'to' => Sweep::TO,
                'depths' => CutFrequency::DEPTHS, 'usualDepth' => CutFrequency::USUAL_DEPTH,
            ],
        ]);
    }

    /**
     * @template T of ChannelKind|SplitBy
     *
     * @param  list<T>  $cases
     * @param  callable(T): array<string, bool|int>  $facts
     * @return array<string, array<string, bool|int>>
     */
    private static function byValue(array $cases, callable $facts): array
    {
        return array_combine(array_map(static fn (ChannelKind|SplitBy $case): string => $case->value, $cases), array_map($facts, $cases));
    }
}
