<?php

declare(strict_types=1);

namespace Quayside\Domain;

use Quayside\Calendar\Holidays;

final class Plan
{
    /** @param string[] $days */
    public function freeDays(array $days): array
    {
        return array_filter($days, fn (string $day): bool => !Holidays::closed($day));
    }
}
