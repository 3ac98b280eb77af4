package iec230

// The settings of the tables that hold one figure a row, each found when the program starts.
var (
	bathBondProtected   = bathZones.Setting("bond_protected")
	bathBondUnprotected = bathZones.Setting("bond_unprotected")
	bathWaterJets       = bathZones.Setting("water_jets")
	bathWaterZone0      = bathZones.Setting("water_zone_0")
	bathWaterZone12     = bathZones.Setting("water_zone_1_2")
	bathZone2Reach      = bathZones.Setting("zone_2_reach")
	bathZoneHeight      = bathZones.Setting("zone_height")

	bondingMainMaxNeeded                = bondingOther.Setting("main_max_needed")
	bondingMainMin                      = bondingOther.Setting("main_min")
	bondingMainShareOfEarthingConductor = bondingOther.Setting("main_share_of_earthing_conductor")

	evOpenTimeMax          = evRules.Setting("open_time_max")
	evRCDIdn               = evRules.Setting("rcd_idn")
	evSimultaneousContactM = evRules.Setting("simultaneous_contact_m")
	evVoltageWindowHigh    = evRules.Setting("voltage_window_high")
	evVoltageWindowLow     = evRules.Setting("voltage_window_low")

	joistCableFromEdgeMin       = joists.Setting("cable_from_edge_min")
	joistDepthCapForFraction    = joists.Setting("depth_cap_for_fraction")
	joistHoleMaxDia             = joists.Setting("hole_max_dia")
	joistHoleNotchSeparationMin = joists.Setting("hole_notch_separation_min")
	joistHoleSpacingMin         = joists.Setting("hole_spacing_min")
	joistNotchMaxDepth          = joists.Setting("notch_max_depth")

	outdoorBendSumDeg = outdoorFigures.Setting("bend_sum_deg")
	outdoorRibbonHigh = outdoorFigures.Setting("ribbon_high")
	outdoorRibbonLow  = outdoorFigures.Setting("ribbon_low")
	outdoorRodM       = outdoorFigures.Setting("rod_m")
	outdoorRodMM      = outdoorFigures.Setting("rod_mm")
	outdoorStickM     = outdoorFigures.Setting("stick_m")
	outdoorRodLeastMM = outdoorFigures.Setting("rod_least_mm")
	outdoorBendBores  = outdoorFigures.Setting("bend_bores")

	rcdAdditionalProtectionIdnMax    = rcdRules.Setting("additional_protection_idn_max")
	rcdConcealedCableDepthWithoutRCD = rcdRules.Setting("concealed_cable_depth_without_rcd")
	rcdSelectivityIdnRatioMin        = rcdRules.Setting("selectivity_idn_ratio_min")
	rcdSocketsRatingWithRCDMax       = rcdRules.Setting("sockets_rating_with_rcd_max")
	rcdStandingLeakageShareMax       = rcdRules.Setting("standing_leakage_share_max")

	riskLengthCapKm          = spdRisk.Setting("length_cap_km")
	riskNgPerThunderstormDay = spdRisk.Setting("ng_per_thunderstorm_day")

	spdCoordinationT1T2   = spdRules.Setting("coordination_t1_t2")
	spdCoordinationT2T3   = spdRules.Setting("coordination_t2_t3")
	spdLeadRise           = spdRules.Setting("lead_rise")
	spdLeadTotalAdvised   = spdRules.Setting("lead_total_advised")
	spdLeadTotalMax       = spdRules.Setting("lead_total_max")
	spdProtectiveDistance = spdRules.Setting("protective_distance")

	testBondContinuityMax       = testParameters.Setting("bond_continuity_max")
	testPfcThreePhaseFromSingle = testParameters.Setting("pfc_three_phase_from_single")

	zoneDepth                 = zones.Setting("depth")
	zoneFromCeiling           = zones.Setting("from_ceiling")
	zoneFromCorner            = zones.Setting("from_corner")
	zoneOtherFacePartitionMax = zones.Setting("other_face_partition_max")
)
